import type { AnswerOf, OwnView, ParsedBodyOf, PayslipView } from '@woodruff/contract';
import { record } from '../audit/audit';
import { copyGivenPdf, keepConsent, titleOfCopy } from '../filings/give';
import { execute, select } from '../database/connection';
import { ownLetterPdf, ownLetters } from '../enrolment/papers';
import { conflict, invalid, notFound, Refusal } from '../errors';
import { personLeave } from '../leave/person-leave';
import { askLeave, checkLeave } from '../leave/requests';
import { payslipsPdf } from '../pay-runs/deliver/documents';
import { payslipView } from '../pay-runs/sheet/payslips';
import { askTimeChange, changesOfPerson, timeOfPerson, withdrawTimeChange } from '../time/changes';
import { newLink } from '../users/links';
import { Membership, User } from '../users/models';
import { endSessionsOf } from '../users/sessions';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { personOf } from '../people/person';

/** The person that the signed-in employee is. Everything here is bound to it. */
function own(scope: Scope): string {
  if (!scope.personId) throw new Refusal(403, 'not-allowed', 'Only employees who were invited have a view of their own.');
  return scope.personId;
}

export async function ownView(scope: Scope): Promise<OwnView> {
  const id = own(scope);
  const person = await personOf(scope, id);
  const { label: year } = packFor(scope).taxYearOf(scope.employer.today);
  const payslips = await select<OwnView['payslips'][number]>(
    scope.database,
    `select y.id, r.pay_date as "payDate", r.period_from as "from", r.period_to as "to", y.state, s.sign * x.gross as gross, s.sign * x.deductions as deductions, s.sign * x.taxes as taxes, s.sign * x.net as net
     from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.kind in ('regular', 'special', 'correction') join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)
     cross join lateral (select case when y.state = 'reversal' then -1 else 1 end as sign) s
     where y.person_id = :id and y.state <> 'draft' order by r.pay_date desc, y.state desc`,
    { id, employer: scope.employer.id },
  );
  const [sums] = await select<OwnView['yearToDate']>(
    scope.database,
    `select coalesce(sum(amount) filter (where kind = 'earning'), 0)::bigint as gross, coalesce(sum(amount) filter (where kind = 'tax'), 0)::bigint as taxes,
            coalesce(sum(amount) filter (where kind like 'deduction%'), 0)::bigint as deductions,
            coalesce(sum(case when kind in ('earning', 'reimbursement') then amount when kind = 'tax' or kind like 'deduction%' then -amount end), 0)::bigint as net
     from ledger_lines where person_id = :id and tax_year = :year`,
    { id, year },
  );
  const time = await timeOfPerson(scope, id);
  return {
    name: `${person.givenName} ${person.familyName}`,
    employer: scope.employer.name,
    today: scope.employer.today,
    year,
    yearToDate: sums ?? { gross: 0, taxes: 0, deductions: 0, net: 0 },
    payslips,
    time: time && { ...time, changes: await changesOfPerson(scope, id) },
    leave: await personLeave(scope, id),
    letters: (await ownLetters(scope, id)).map(({ letter, ...one }) => ({
      ...one,
      title: packFor(scope).enrolment?.letters.find(({ code }) => code === letter)?.title ?? letter,
    })),
    electronicForms: person.electronicForms ?? null,
    ...(await ownForms(scope, id)),
  };
}

export const ownLetter = (scope: Scope, id: string): Promise<Buffer> => ownLetterPdf(scope, own(scope), id);

/** A payslip with its workings; who changed what while it was prepared is the office's. */
export async function ownPayslip(scope: Scope, id: string): Promise<PayslipView> {
  const view = await payslipView(scope, await ofOwn(scope, id));
  return {
    ...view,
    lines: view.lines.filter((line) => !line.hidden),
    edits: view.edits.note ? { note: view.edits.note } : {},
    history: [],
    taken: [],
    problems: [],
  };
}

export const ownPayslipPdf = async (scope: Scope, id: string): Promise<Buffer> => payslipsPdf(scope, { payslip: await ofOwn(scope, id) });

/** The id, if it is a paid payslip of the employee; anybody else's does not exist. */
async function ofOwn(scope: Scope, id: string): Promise<string> {
  const [found] = await select<{ id: string }>(
    scope.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where y.id = :id and y.person_id = :person and y.state <> 'draft' and r.employer_id = :employer`,
    { id, person: own(scope), employer: scope.employer.id },
  );
  if (!found) throw notFound('payslip');
  return found.id;
}

export const checkOwnLeave = (scope: Scope, body: ParsedBodyOf<'checkOwnLeave'>): Promise<AnswerOf<'checkOwnLeave'>> =>
  checkLeave(scope, { ...body, personId: own(scope) }).then((check) => ({ ...check, away: [] }));

export const askOwnLeave = (scope: Scope, body: ParsedBodyOf<'askOwnLeave'>): Promise<{ id: string }> =>
  askLeave(scope, { ...body, personId: own(scope) });

export const askOwnTimeChange = (scope: Scope, body: ParsedBodyOf<'askTimeChange'>): Promise<{ id: string }> =>
  askTimeChange(scope, own(scope), body);

export const withdrawOwnTimeChange = (scope: Scope, id: string): Promise<Record<string, never>> =>
  withdrawTimeChange(scope, own(scope), id);

/** Whether consent to electronic statements waits for an answer, and the statements that were given to the own view or by mail. */
async function ownForms(scope: Scope, id: string): Promise<Pick<OwnView, 'formsAsked' | 'statements'>> {
  const [last] = await select<{ step: string; on: string }>(
    scope.database,
    'select step, on_day as "on" from form_consents where person_id = :id order by id desc limit 1',
    { id },
  );
  const given = await select<{ id: string; filing: string; period: string; attempt: number; on: string }>(
    scope.database,
    `select distinct on (filing, period, attempt) id, filing, period, attempt, on_day as "on" from copies_given where person_id = :id and how <> 'paper' order by filing, period, attempt, at`,
    { id },
  );
  const statements = await Promise.all(
    given.map(async ({ filing, period, attempt, ...one }) => {
      const { name, corrected, label } = await titleOfCopy(scope, filing, period, attempt, id);
      return { ...one, name, corrected, period: label };
    }),
  );
  return {
    formsAsked: last?.step === 'asked' ? last.on : null,
    statements: statements.sort((a, b) => (a.on < b.on ? 1 : -1)),
  };
}

/** A statement that was given to the signed-in employee; anybody else's does not exist. */
export async function ownStatementPdf(scope: Scope, id: string): Promise<Buffer> {
  const [given] = await select<{ filing: string; period: string; attempt: number }>(
    scope.database,
    `select filing, period, attempt from copies_given where id = :id and person_id = :person and employer_id = :employer and how <> 'paper'`,
    { id, person: own(scope), employer: scope.employer.id },
  );
  if (!given) throw notFound('statement');
  return copyGivenPdf(scope, { ...given, personId: own(scope) });
}

/** Year-end forms electronically from today on, or on paper again. */
export async function setElectronicForms(scope: Scope, electronic: boolean): Promise<Record<string, never>> {
  const id = own(scope);
  return changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'update people set electronic_forms = cast(:from as date) where id = :id',
      { id, from: electronic ? scope.employer.today : null },
      transaction,
    );
    await keepConsent(scope, id, { step: electronic ? 'given' : 'withdrawn', means: 'in their own view' }, transaction);
    return {};
  });
}

async function stateOfInvitation(id: string): Promise<{ invited: boolean; accepted: boolean }> {
  const membership = await Membership.findOne({ where: { personId: id } });
  return { invited: !!membership, accepted: !!membership?.acceptedAt };
}

/** Whether somebody was invited to their own view. */
export async function invitationOf(scope: Scope, id: string): Promise<AnswerOf<'invitation'>> {
  const person = await personOf(scope, id);
  return { email: person.email ?? null, ...(await stateOfInvitation(id)) };
}

/**
 * Invites somebody to their own view: a link goes to their address, by which they accept and choose a password. Invited
 * again, the link before is worth nothing, and what was open to them ends until they accept anew.
 */
export async function invite(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const email = person.email?.toLowerCase();
    if (!email)
      throw invalid('There is no e-mail address on file. Enter it among the details first.', [
        { path: 'email', expected: 'an e-mail address' },
      ]);
    const name = `${person.givenName} ${person.familyName}`;
    const known = await User.findOne({ where: { email }, transaction });
    const membership = known && (await Membership.findOne({ where: { userId: known.id, employerId: scope.employer.id }, transaction }));
    if (known && membership && membership.personId !== id)
      throw conflict(
        'address-used',
        `${email} signs in here as ${known.name} already, with another right. Enter the person's own address among the details.`,
      );
    const user = known ?? (await User.create({ email, name, passwordHash: '' }, { transaction }));
    if (membership) {
      await membership.update({ acceptedAt: null }, { transaction });
      // Who has a right at another employer stays signed in there.
      if ((await Membership.count({ where: { userId: user.id }, transaction })) === 1) await endSessionsOf(scope.database, user.id);
    } else
      await Membership.create(
        { userId: user.id, employerId: scope.employer.id, role: 'employee', personId: id, acceptedAt: null },
        { transaction },
      );
    const link = await newLink(scope.database, 'invitation', user.id, scope.employer.id);
    await execute(
      scope.database,
      `insert into outbox (employer_id, kind, to_address, to_name, subject, body) values (:employer, 'invitation', :email, :name, :subject, :body)`,
      {
        employer: scope.employer.id,
        email,
        name,
        subject: `Your payslips at ${scope.employer.name}`,
        body: `See your payslips, your leave and your time at ${scope.employer.name}. Accept within a week: ${link} .`,
      },
      transaction,
    );
    await record(scope, { action: 'invite', subject: 'person', subjectId: id, what: `Invited to their own view at ${email}` }, transaction);
    return {};
  });
}

/** Ends what an invitation opened. */
export async function endInvitation(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    const membership = await Membership.findOne({ where: { personId: id }, transaction });
    if (!membership) throw notFound('invitation');
    await membership.destroy({ transaction });
    await execute(
      scope.database,
      'update user_links set used_at = now() where user_id = :user and employer_id = :employer and used_at is null',
      {
        user: membership.userId,
        employer: scope.employer.id,
      },
    );
    await record(scope, { action: 'invite', subject: 'person', subjectId: id, what: 'Their own view is closed' }, transaction);
    return {};
  });
}
