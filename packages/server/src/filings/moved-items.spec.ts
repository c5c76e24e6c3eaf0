import { payItemSchema } from '@woodruff/contract';
import { addOneOffs } from '../one-offs/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { changePayItem, listPayItems } from '../pay-items/service';
import { australianWorks } from '../testing/australian-works';
import { refusal } from '../testing/refusal';
import { approveAll } from '../testing/workplace';
import { boxMap } from './boxes';
import { itemMoves, moveItem } from './moved-items';
import { yearReconciled } from './reconciled';
import { fileOf } from './files';

describe('What was posted of an item, when its treatment changes', () => {
  it('stays where it was until it is moved, and is moved once, person by person', async () => {
    const works = await australianWorks();
    let scope = await works.scope();
    await addOneOffs(scope, { entries: [{ person: '1', item: 'bonus', amount: '500.00', note: '', part: null, takes: { by: 'next' } }] });
    const run = await works.run();
    await approveAll(scope, run);
    scope = await works.scope();
    const bonus = (await listPayItems(scope)).find(({ code }) => code === 'bonus')!;
    const { id, version, retired: _retired, held: _held, ...definition } = bonus;
    const asBackPay = { treatment: 'back-pay' };
    const shown = {
      year: '2026-27',
      bases: [
        { code: 'au.gross', label: 'Gross payments' },
        { code: 'au.bonus', label: 'Bonuses and commissions' },
      ],
      people: [{ personId: works.people[0], name: 'Adeyemi, Fergus', posted: 500_00, sums: [500_00, -500_00] }],
      stay: [],
    };
    // As it counts it stands where it should; by another treatment it would be elsewhere, and nothing moves by looking.
    expect((await itemMoves(scope, id, definition)).people).toEqual([]);
    expect(await refusal(moveItem(scope, id, { reason: 'To be sure' }))).toContain('nothing is to be moved');
    expect(await itemMoves(scope, id, asBackPay)).toEqual(shown);

    // What is paid on leaving is stated as the payslip works it out: that cannot be moved by a sum.
    expect(await itemMoves(scope, id, { treatment: 'redundancy' })).toEqual({
      year: '2026-27',
      bases: [],
      people: [],
      stay: ['Redundancy pay'],
    });
    expect((await boxMap(scope)).filings[0]?.items.find((one) => one.id === id)?.astray).toBeFalse();

    await changePayItem(scope, id, { version, item: payItemSchema.parse({ ...definition, ...asBackPay }) });
    expect(await itemMoves(scope, id, asBackPay)).toEqual(shown);
    expect((await boxMap(scope)).filings[0]?.items.find((one) => one.id === id)?.astray).toBeTrue();
    expect(await moveItem(scope, id, { reason: 'It is back pay' })).toEqual({ people: 1 });
    expect((await itemMoves(scope, id, asBackPay)).people).toEqual([]);
    const { codes } = await yearReconciled(scope, '2026-27');
    const of = (code: string) => codes.find((one) => one.code === code);
    expect([of('au.bonus')?.adjusted, of('au.bonus')?.ledger, of('au.bonus')?.unexplained]).toEqual([-500_00, 0, 0]);
    // Two people of 1,140.00, and the 500.00.
    expect([of('au.gross')?.adjusted, of('au.gross')?.ledger]).toEqual([500_00, 2_780_00]);
    expect((await fileOf(scope, 'finalisation', '2026-27')).content).toContain('<GrossA>1640.00<');

    // A payslip that is reversed afterwards leaves its own move to be taken back.
    const payslip = (await sheetOf(scope, run)).rows.find(({ personId }) => personId === works.people[0]);
    await reversePayslip(scope, payslip?.payslipId ?? '', 'Paid in error', false);
    expect((await itemMoves(await works.scope(), id, asBackPay)).people).toEqual([
      { personId: works.people[0], name: 'Adeyemi, Fergus', posted: 0, sums: [-500_00, 500_00] },
    ]);
  });
});
