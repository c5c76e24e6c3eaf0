import type { AnswerOf, ParsedBodyOf } from '@woodruff/contract';
import { computePayslip, periodOf, writtenPeriod, type PayslipInput } from '@woodruff/core';
import { select } from '../../database/connection';
import { invalid, notFound } from '../../errors';
import { loadPeopleFacts, loadRunFacts } from '../../payslip-input/facts';
import { inputOf } from '../../payslip-input/input';
import { holidaysOf, type Scope } from '../../scope';
import { schedulesOf } from '../../employers/schedules-on-file';

/** What tax details as entered would take from a typical payslip, beside those in force; nothing is saved. */
export async function taxPreview(scope: Scope, id: string, { facts }: ParsedBodyOf<'taxPreview'>): Promise<AnswerOf<'taxPreview'>> {
  const { input, based } = await typicalInput(scope, id);
  const before = computePayslip(input);
  const after = computePayslip({ ...input, tax: facts }, { workings: true });
  const stop = after.problems.find((problem) => problem.weight === 'stop');
  const codes = new Map([...before.lines, ...after.lines].filter((line) => line.kind === 'tax').map((line) => [line.code, line.label]));
  const amountOf = (payslip: typeof before, code: string) =>
    payslip.lines.reduce((sum, line) => (line.kind === 'tax' && line.code === code ? sum + line.amount : sum), 0);
  return {
    based,
    gross: after.totals.gross,
    taxes: [...codes].map(([code, label]) => ({ code, label, before: amountOf(before, code), after: amountOf(after, code) })),
    net: { before: before.totals.net, after: after.totals.net },
    stop: stop?.sentence ?? null,
    workings: after.workings,
  };
}

/** The person's latest ordinary payslip; before the first one, the period of today with salary or standard hours. */
async function typicalInput(scope: Scope, id: string): Promise<{ input: PayslipInput; based: string }> {
  const [latest] = await select<{ input: PayslipInput; payDate: string }>(
    scope.database,
    `select x.input, to_char(r.pay_date, 'FMDD Mon YYYY') as "payDate" from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer join payslip_results x on x.payslip_id = y.id
     where y.person_id = :id and y.included and y.state <> 'reversal' and r.kind = 'regular' and x.gross > 0 order by r.pay_date desc limit 1`,
    { id, employer: scope.employer.id },
  );
  // Registrations as they are now: what is entered for a new place of work counts at once.
  if (latest) return { input: { ...latest.input, employer: scope.employer.facts.country }, based: `The payslip of ${latest.payDate}` };
  const [person] = await select<{ scheduleId: string | null }>(
    scope.database,
    'select schedule_id as "scheduleId" from people where id = :id and employer_id = :employer',
    { id, employer: scope.employer.id },
  );
  if (!person) throw notFound('person');
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === person.scheduleId);
  if (!schedule) throw invalid('A preview needs a pay schedule. Enter it among the details.');
  const period = periodOf(schedule, scope.employer.today, holidaysOf(scope));
  const run = { kind: 'regular', scheduleId: schedule.id, periodFrom: period.from, periodTo: period.to, payDate: period.payDate };
  const facts = await loadRunFacts(scope, run);
  const [loaded] = await loadPeopleFacts(scope, run, { people: [id] }, facts);
  if (!loaded) throw notFound('person');
  return { input: inputOf(facts, loaded), based: `The period ${writtenPeriod(period.from, period.to)}, with salary or standard hours` };
}
