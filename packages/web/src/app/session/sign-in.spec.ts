import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { part } from '../../testing/part';
import { sessionActions } from './session.store';
import { SignInForm } from './sign-in';

describe('Signing in', () => {
  it('wants an address and a password before it can be sent', async () => {
    const one = await part(SignInForm, {});
    const sent: unknown[] = [];
    spyOn(TestBed.inject(Store), 'dispatch').and.callFake(((action: unknown) => sent.push(action)) as never);
    expect(one.button('Sign in').disabled).toBeTrue();
    await one.fill('E-mail', 'not an address');
    await one.fill('Password', 'glass');
    expect(one.button('Sign in').disabled).toBeTrue();
    await one.fill('E-mail', 'clerk@example.test');
    await one.press('Sign in');
    expect(sent).toEqual([sessionActions.signIn({ email: 'clerk@example.test', password: 'glass' })]);
  });

  it('says what is wrong and keeps what was typed', async () => {
    const one = await part(SignInForm, {});
    await one.fill('E-mail', 'clerk@example.test');
    await one.fill('Password', 'wrong');
    const problem = { type: '', title: '', status: 401, code: 'wrong', detail: 'The address or the password is wrong.' } as ProblemDetail;
    TestBed.inject(Store).dispatch(sessionActions.refused({ problem }));
    await one.settle();
    expect(one.element.querySelector('[role="alert"]')?.textContent.trim()).toBe('The address or the password is wrong.');
    expect(one.field('E-mail').value).toBe('clerk@example.test');
  });
});
