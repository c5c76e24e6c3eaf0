import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { BackPay } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { itemChoicesStore, payItemsStore } from '../pay-items/pay-items.store';
import { BackPayOffer } from './back-pay-offer';

const line = (paid: number, now: number, already = 0) => ({
  item: 'ordinary',
  label: 'Ordinary',
  paid,
  now,
  already,
  difference: now - paid - already,
  workings: {},
});
const period = (payslipId: string, payDate: string, lines: ReturnType<typeof line>[], hours = {}) => ({
  payslipId,
  payDate,
  from: '2026-10-25',
  to: '2026-11-07',
  hours,
  lines,
});
const OFFER: BackPay = {
  total: 11_000,
  people: [
    {
      personId: 'ines',
      name: 'Ines Halloway',
      total: 11_000,
      periods: [
        period('p1', '2026-10-30', [line(200_000, 208_000, 2_000)], { ordinary: '80.00' }),
        period('p2', '2026-11-13', [line(200_000, 205_000)]),
        period('p3', '2026-11-13', []),
      ],
    },
  ],
};

describe('Back pay of one person', () => {
  let shown: Part<BackPayOffer>;

  async function offer(answer: BackPay = OFFER): Promise<unknown> {
    shown = await part(
      BackPayOffer,
      { personId: 'ines', begins: '2026-10-25' },
      { stores: [payItemsStore as never, itemChoicesStore as never] },
    );
    return shown.answer('POST', '/back-pay', answer);
  }

  it('is told period by period: as paid, now, offered before, and what is left', async () => {
    expect(await offer()).toEqual({ from: '2026-10-25', personIds: ['ines'], hours: {} });
    expect(shown.text).toContain('Ordinary 2,000.00 2,080.00 20.00 +60.00');
    expect(shown.text).toContain('Ordinary 2,000.00 2,050.00 – +50.00');
    expect(shown.text).toContain('as it was paid');
    expect(shown.text).toContain('In all +110.00');
  });

  it('takes hours that came late, and keeps to the last thing entered', async () => {
    await offer();
    const http = TestBed.inject(HttpTestingController);
    const field = 'Hours of ordinary, 25 Oct – 7 Nov 2026';
    await shown.fill(field, '82');
    const [first] = http.match((one) => one.url.endsWith('/back-pay'));
    await shown.fill(field, '84');
    const [second] = http.match((one) => one.url.endsWith('/back-pay'));
    expect(first?.cancelled).toBeTrue();
    expect((second?.request.body as { hours: object }).hours).toEqual({ p1: { ordinary: '84' } });
    second?.flush({ ...OFFER, total: 31_000 });
    await shown.settle();
    expect(shown.text).toContain('In all +310.00');
  });

  it('is put among the one-offs, each on its own item or all on one', async () => {
    await offer();
    const taken = shown.given(shown.fixture.componentInstance.taken);
    await shown.press('Put 110.00 among the one-offs');
    expect(await shown.answer('POST', '/back-pay/take', { added: 2 })).toEqual(
      jasmine.objectContaining({ item: null, takes: { by: 'next' }, from: '2026-10-25' }),
    );
    expect(taken).toEqual([2]);
  });

  it('offers nothing to take where nothing is left, and says why a day is refused', async () => {
    await offer({ total: 0, people: [] });
    expect(shown.text).toContain('No paid period reaches that day.');
    expect(shown.buttons()).toEqual(['Close']);
    await shown.fill('for periods that reach', '2025-01-01');
    await shown.answer('POST', '/back-pay', refused('Back pay reaches back to the first run kept here.'), 422);
    expect(shown.text).toContain('Back pay reaches back to the first run kept here.');
  });
});
