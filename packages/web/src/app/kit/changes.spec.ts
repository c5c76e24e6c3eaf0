import { TestBed } from '@angular/core/testing';
import { Changes } from './changes';

describe('What changed', () => {
  const shown = (count: number) => {
    const fixture = TestBed.createComponent(Changes);
    fixture.componentRef.setInput(
      'changes',
      Array.from({ length: count }, (_none, index) => ({ at: '2026-11-23T10:05:00', who: 'Odile', what: `Change ${index}` })),
    );
    fixture.detectChanges();
    return { fixture, element: fixture.nativeElement as HTMLElement };
  };

  it('says when, what and who, and that nothing did', () => {
    const cells = [...shown(1).element.querySelectorAll('td')].map((cell) => cell.textContent.trim());
    expect(cells).toEqual(['23 Nov 2026 10:05', 'Change 0', 'Odile']);
    expect(shown(0).element.textContent).toContain('Nothing since it was set up');
  });

  it('folds a long history, and shows all of it when asked', () => {
    const { fixture, element } = shown(9);
    expect(element.querySelectorAll('tr').length).toBe(6);
    element.querySelector('button')!.click();
    fixture.detectChanges();
    expect(element.querySelectorAll('tr').length).toBe(9);
    expect(element.querySelector('button')).toBeNull();
  });
});
