import { addDays, leaveCode, written, writtenDay } from '@woodruff/core';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { logoOf } from '../employers/logo';
import { notFound } from '../errors';
import { termsOn } from '../payslip-input/leave-terms';
import { personLeave } from '../leave/person-leave';
import { payslipsOfRun, viewOf } from '../pay-runs/sheet/payslips';
import { packFor, type Scope } from '../scope';
import { storedOf } from './leaving';
import { personOf } from '../people/person';

/** What is left of each plan, and what becomes of it: by itself, beside the final pay. */
async function unusedLeave(scope: Scope, id: string, paysLeave: boolean): Promise<{ plan: string; words: string }[]> {
  const terms = await termsOn(scope, scope.employer.today);
  const { plans } = await personLeave(scope, id);
  return plans.flatMap(({ plan, planId, code, balance, movements }) => {
    const paidOut = -movements.filter((one) => one.figure === leaveCode(code, 'paid-out')).reduce((sum, one) => sum + one.amount, 0);
    if (paidOut > 0) return [{ plan, words: `${written(paidOut)} hours, paid out` }];
    if (balance <= 0) return [];
    const pays = paysLeave && terms.get(planId)?.payOutItem !== undefined;
    return [{ plan, words: `${written(balance)} hours on file, ${pays ? 'paid out with the final pay' : 'not paid out'}` }];
  });
}

const NOTICE = { none: 'none', worked: 'worked', paid: 'paid, not worked', deducted: 'deducted' } as const;

/** For the employee: when and why employment ends, notice, final pay and the year's sums. */
export async function leavingStatement(scope: Scope, id: string): Promise<Buffer> {
  const person = await personOf(scope, id);
  const stored = await storedOf(scope, id);
  if (!stored) throw notFound('leaving');
  const sheet = new Sheet('Statement on leaving', packFor(scope).paper).page();
  const logo = await logoOf(scope);
  if (logo) sheet.logo(logo.image);
  const { address } = scope.employer.facts;
  sheet.title(scope.employer.name, logo ? '' : 'Statement on leaving');
  sheet.text(packFor(scope).person.address.line(address), { color: SECOND_INK });
  sheet.heading('Employment');
  const row = (label: string, value: string) =>
    sheet.row([
      { text: label, at: LEFT, width: 180 },
      { text: value, at: LEFT + 190, width: 300 },
    ]);
  row('Name', `${person.givenName} ${person.familyName}`);
  row('Employed', `${person.hired ? writtenDay(person.hired) : ''} to ${writtenDay(stored.lastDay)}`);
  row('Reason', stored.reason);
  const { how, given, until } = stored.notice;
  row('Notice', `${NOTICE[how]}${given ? `, given ${writtenDay(given)}` : ''}${until ? `, until ${writtenDay(until)}` : ''}`);
  const unused = await unusedLeave(scope, id, stored.paysLeave);
  if (unused.length) {
    sheet.heading('Leave not taken');
    for (const { plan, words } of unused) row(plan, words);
  }
  if (stored.runId) {
    const payslip = (await payslipsOfRun(scope, stored.runId)).map((one) => viewOf(one)).find((one) => one.personId === id);
    if (payslip) {
      sheet.heading(`Final pay, ${writtenDay(payslip.payDate)}${stored.state === 'approved' ? '' : ', not approved yet'}`);
      for (const line of payslip.lines.filter(
        (one) => ['earning', 'reimbursement', 'deduction-before-tax', 'tax', 'deduction-after-tax'].includes(one.kind) && !one.hidden,
      ))
        sheet.row([
          { text: line.label, at: LEFT, width: 300 },
          {
            text: written(['earning', 'reimbursement'].includes(line.kind) ? line.amount : -line.amount),
            at: RIGHT,
            right: true,
            width: 120,
          },
        ]);
      sheet.rule('#1E2730');
      sheet.row(
        [
          { text: 'Net pay', at: LEFT },
          { text: written(payslip.totals.net), at: RIGHT, right: true, width: 120 },
        ],
        'bold',
      );
    }
  } else sheet.text(`Final pay is part of the regular pay on or after ${writtenDay(addDays(stored.lastDay, 1))}.`);
  return sheet.finish(scope.employer.name);
}
