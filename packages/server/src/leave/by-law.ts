import type { AssessedLeaveView, ParsedBodyOf, PersonLawLeaves } from '@woodruff/contract';
import { decimalOf, writtenDate, writtenPeriod, type AssessedLeave, type KindOfLeaveByLaw, type LeaveByLaw } from '@woodruff/core';
import { record } from '../audit/audit';
import { workOutAgain } from '../calculation/again';
import { execute, select, type Transaction } from '../database/connection';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { conflict, invalid, notFound } from '../errors';
import { insert } from '../one-offs/service';
import { personOf } from '../people/person';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';

type Asked = ParsedBodyOf<'addLawLeave'>;
interface Stored extends Asked {
  id: string;
  version: number;
  assessed: AssessedLeaveView;
  paid: number;
  waiting: number;
  undone: string | null;
  by: string;
  at: string;
}

const ROWS = `select l.id, l.kind, l.from_date as "from", l.to_date as "to", l.about, l.pays_on as "paysOn", l.assessed, l.undone, l.version, u.name as by, to_char(l.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at,
    coalesce((select sum(o.amount * 100) from one_offs o join payslips y on y.id = o.payslip_id where o.law_leave_id = l.id and y.state <> 'draft'), 0)::bigint as paid,
    coalesce((select sum(o.amount * 100) from one_offs o left join payslips y on y.id = o.payslip_id where o.law_leave_id = l.id and (o.payslip_id is null or y.state = 'draft')), 0)::bigint as waiting
  from law_leaves l join people p on p.id = l.person_id and p.employer_id = :employer join users u on u.id = l.user_id`;

const lawOf = (scope: Scope): LeaveByLaw => {
  const law = packFor(scope).leaveByLaw;
  if (!law) throw notFound('leave by law');
  return law;
};

function kindOf(scope: Scope, code: string): KindOfLeaveByLaw {
  const kind = lawOf(scope).kinds.find((one) => one.code === code);
  if (!kind) throw invalid('The law knows no such leave.', [{ path: 'kind', expected: 'a kind of the list' }]);
  return kind;
}

/** What the law knows, and what is on file of a person, the latest first. */
export async function lawLeavesOf(scope: Scope, personId: string): Promise<PersonLawLeaves> {
  await personOf(scope, personId);
  const law = packFor(scope).leaveByLaw;
  if (!law) return { kinds: [], leaves: [] };
  return {
    kinds: law.kinds.map(({ code, label, refusal = null, fields }) => ({
      code,
      label,
      refusal,
      fields: fields.map(({ key, label: of, help, kind, choices }) => ({
        key,
        label: of,
        kind,
        ...(help ? { help } : {}),
        ...(choices ? { choices: [...choices] } : {}),
      })),
    })),
    leaves: await select<Stored>(scope.database, `${ROWS} where l.person_id = :personId order by l.from_date desc, l.at desc`, {
      employer: scope.employer.id,
      personId,
    }),
  };
}

/** The law's tests and amounts, out of what was paid before the leave; nothing is saved. */
export async function assessLawLeave(
  scope: Scope,
  personId: string,
  asked: Asked,
  besides?: string,
  transaction?: Transaction,
): Promise<AssessedLeaveView> {
  const law = lawOf(scope);
  kindOf(scope, asked.kind);
  const person = await personOf(scope, personId, transaction);
  if (!person.hired)
    throw invalid('No hire date is on file. Enter it with the details of the person first.', [
      { path: 'from', expected: 'a hire date on file' },
    ]);
  const paid = await select<{ payDate: string; amount: number }>(
    scope.database,
    `select pay_date as "payDate", sum(amount)::bigint as amount from ledger_lines where person_id = :personId and code = :code and pay_date < :to group by 1 order by 1`,
    { personId, code: law.earnings, to: asked.to },
    transaction,
  );
  const others = await select<{ from: string; to: string; about: Record<string, string> }>(
    scope.database,
    `select from_date as "from", to_date as "to", about from law_leaves where person_id = :personId and kind = :kind and undone is null and id <> coalesce(cast(:besides as uuid), gen_random_uuid()) order by from_date`,
    { personId, kind: asked.kind, besides: besides ?? null },
    transaction,
  );
  const overlapping = others.find(({ from, to }) => from <= asked.to && to >= asked.from);
  if (overlapping)
    throw conflict(
      'leave-overlaps',
      `Leave of the same kind is on file for ${writtenPeriod(overlapping.from, overlapping.to)}. Change that one, or correct the days.`,
    );
  const [schedule] = await select<{ frequency: string }>(
    scope.database,
    'select frequency from pay_schedules where id = :id',
    { id: person.scheduleId },
    transaction,
  );
  try {
    return viewOf(
      law.assess({
        ...asked,
        hired: person.hired,
        ...(person.left ? { left: person.left } : {}),
        frequency: schedule?.frequency ?? 'monthly',
        paid,
        others,
      }),
    );
  } catch (error) {
    if (error instanceof RangeError)
      throw invalid(`The leave cannot be assessed: ${error.message}.`, [{ path: 'about', expected: error.message }]);
    throw error;
  }
}

const viewOf = ({ tests, entitled, parts, workings }: AssessedLeave): AssessedLeaveView => ({
  tests,
  entitled,
  parts,
  workings: { ...workings },
  total: parts.reduce((sum, { amount }) => sum + amount, 0),
});

/** Puts it on file as the law assesses it today. Each week that is paid waits for the first run with a pay date after it. */
export async function addLawLeave(scope: Scope, personId: string, body: Asked): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const assessed = await assessLawLeave(scope, personId, body, undefined, transaction);
    const [made] = (await execute(
      scope.database,
      `insert into law_leaves (employer_id, person_id, kind, from_date, to_date, about, pays_on, assessed, user_id) values (:employer, :personId, :kind, :from, :to, :about, :paysOn, :assessed, :user) returning id`,
      {
        employer: scope.employer.id,
        personId,
        kind: body.kind,
        from: body.from,
        to: body.to,
        about: JSON.stringify(body.about),
        paysOn: body.paysOn,
        assessed: JSON.stringify(assessed),
        user: scope.user.id,
      },
      transaction,
    )) as { id: string }[];
    const id = made?.id ?? '';
    await payWeeks(scope, { id, personId, kind: body.kind }, assessed, transaction);
    await told(
      scope,
      personId,
      `${kindOf(scope, body.kind).label} leave ${writtenPeriod(body.from, body.to)}: ${assessed.entitled ? `${decimalOf(assessed.total)} to pay` : 'nothing is paid'}`,
      transaction,
    );
    return { id };
  });
}

/** Another last day: weeks that are gone are taken back, with what was paid of them by now as a one-off against it. */
export async function endLawLeave(
  scope: Scope,
  personId: string,
  id: string,
  { version, to }: ParsedBodyOf<'endLawLeave'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const stored = await storedOf(scope, personId, id, version, transaction);
    if (to < stored.from)
      throw invalid('The last day is before the first.', [{ path: 'to', expected: `a day from ${writtenDate(stored.from)} on` }]);
    const assessed = await assessLawLeave(scope, personId, { ...stored, to }, id, transaction);
    await execute(
      scope.database,
      'update law_leaves set to_date = :to, assessed = :assessed, version = version + 1 where id = :id',
      { id, to, assessed: JSON.stringify(assessed) },
      transaction,
    );
    await payWeeks(scope, { id, personId, kind: stored.kind }, assessed, transaction);
    await told(
      scope,
      personId,
      `${kindOf(scope, stored.kind).label} leave from ${writtenDate(stored.from)} ends on ${writtenDate(to)}`,
      transaction,
    );
    return {};
  });
}

/** Takes it back: what waits is removed, what was paid is taken back with the next run. */
export async function undoLawLeave(
  scope: Scope,
  personId: string,
  id: string,
  { version, reason }: ParsedBodyOf<'undoLawLeave'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const stored = await storedOf(scope, personId, id, version, transaction);
    await execute(
      scope.database,
      'update law_leaves set undone = :reason, version = version + 1 where id = :id',
      { id, reason },
      transaction,
    );
    await payWeeks(scope, { id, personId, kind: stored.kind }, { parts: [] }, transaction);
    await told(
      scope,
      personId,
      `${kindOf(scope, stored.kind).label} leave ${writtenPeriod(stored.from, stored.to)} taken back: ${reason}`,
      transaction,
    );
    return {};
  });
}

async function storedOf(scope: Scope, personId: string, id: string, version: number, transaction?: Transaction): Promise<Stored> {
  const [stored] = await select<Stored>(
    scope.database,
    `${ROWS} where l.id = :id and l.person_id = :personId${transaction ? ' for update of l' : ''}`,
    { id, personId, employer: scope.employer.id },
    transaction,
  );
  if (!stored) throw notFound('leave');
  if (stored.undone !== null) throw conflict('leave-undone', 'The leave was taken back already.');
  if (stored.version !== version)
    throw conflict('changed-meanwhile', 'Somebody else changed the leave meanwhile. Look at it, then repeat what you did.');
  return stored;
}

/** Makes the one-offs of a leave what its weeks want: those that wait are made anew, and what was paid otherwise is made good. */
async function payWeeks(
  scope: Scope,
  { id, personId, kind }: { id: string; personId: string; kind: string },
  { parts }: Pick<AssessedLeaveView, 'parts'>,
  transaction: Transaction,
): Promise<void> {
  const open = await select<{ payslipId: string }>(
    scope.database,
    `select y.id as "payslipId" from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.state = 'open' where y.person_id = :personId and y.state = 'draft'`,
    { employer: scope.employer.id, personId },
    transaction,
  );
  await execute(
    scope.database,
    `delete from one_offs where law_leave_id = :id and (payslip_id is null or payslip_id in (select y.id from payslips y where y.state = 'draft')) returning id`,
    { id },
    transaction,
  );
  const paid = await select<{ day: string; amount: number }>(
    scope.database,
    'select law_leave_day as day, sum(amount * 100)::bigint as amount from one_offs where law_leave_id = :id group by 1',
    { id },
    transaction,
  );
  const before = new Map(paid.map(({ day, amount }) => [day, amount]));
  const law = kindOf(scope, kind);
  const wanted = parts.map(({ from, to, label, amount }) => {
    const already = before.get(from) ?? 0;
    before.delete(from);
    return { day: from, to, note: `${law.label}, ${label}, ${writtenPeriod(from, to)}`, amount: amount - already };
  });
  for (const [day, amount] of before)
    wanted.push({ day, to: scope.employer.today, note: `${law.label}, taken back of ${writtenDate(day)}`, amount: -amount });
  const changes = wanted.filter(({ amount }) => amount !== 0);
  if (changes.length) {
    const itemId = await itemFor(scope, law, transaction);
    const ids = await insert(
      scope,
      changes.map(({ to, note, amount }) => ({
        personId,
        itemId,
        amount: decimalOf(amount),
        note,
        takes: { by: 'date' as const, date: to },
        back: null,
      })),
      transaction,
    );
    await execute(
      scope.database,
      `update one_offs o set law_leave_id = :id, law_leave_day = e.day from jsonb_to_recordset(cast(:of as jsonb)) as e(id uuid, day date) where o.id = e.id returning o.id`,
      { id, of: JSON.stringify(ids.map((one, index) => ({ id: one, day: changes[index]?.day }))) },
      transaction,
    );
  }
  // The leave changes ordinary pay, too.
  if (open.length)
    await workOutAgain(
      scope,
      open.map(({ payslipId }) => payslipId),
      transaction,
    );
}

async function itemFor(scope: Scope, { label, treatment }: KindOfLeaveByLaw, transaction: Transaction): Promise<string> {
  const [item] = await select<{ id: string }>(
    scope.database,
    `select id from pay_items where employer_id = :employer and not retired and definition->>'treatment' = :treatment order by code limit 1`,
    { employer: scope.employer.id, treatment },
    transaction,
  );
  if (item) return item.id;
  const name = packFor(scope).treatments[treatment]?.label ?? label;
  throw invalid(`There is no pay item for ${name.toLowerCase()}. Add it from the standard items under Pay items, then repeat this.`, [
    { path: 'kind', expected: 'a kind with a pay item' },
  ]);
}

const told = (scope: Scope, personId: string, what: string, transaction: Transaction): Promise<void> =>
  record(scope, { action: 'leave-by-law', subject: 'person', subjectId: personId, what }, transaction);

/** For the employee: that nothing is paid by law, by which test, and what of it was looked at. */
export async function refusalOf(scope: Scope, personId: string, id: string): Promise<Buffer> {
  const person = await personOf(scope, personId);
  const stored = (await lawLeavesOf(scope, personId)).leaves.find((one) => one.id === id);
  if (!stored || stored.assessed.entitled) throw notFound('refusal');
  const kind = kindOf(scope, stored.kind);
  const pack = packFor(scope);
  const name = pack.treatments[kind.treatment]?.label ?? kind.label;
  const sheet = new Sheet(`${name}: not paid`, pack.paper).page();
  sheet.title(scope.employer.name, kind.refusal ?? '');
  sheet.text(pack.person.address.line(scope.employer.facts.address), { color: SECOND_INK });
  sheet.heading(`${name} is not paid`);
  sheet.text(
    `To ${person.givenName} ${person.familyName}, for ${writtenPeriod(stored.from, stored.to)}. Given on ${writtenDate(scope.employer.today)}.`,
  );
  sheet.heading('Why');
  for (const { sentence } of stored.assessed.tests.filter(({ holds }) => !holds)) sheet.text(`Not so: ${sentence}.`);
  sheet.heading('What was looked at');
  for (const { sentence, holds } of stored.assessed.tests)
    sheet.row([
      { text: sentence, at: LEFT, width: RIGHT - LEFT - 60 },
      { text: holds ? 'yes' : 'no', at: RIGHT - 40, width: 40 },
    ]);
  sheet.text(
    'Keep this paper: another office may ask for it. Who disagrees asks the employer for the reasons first, and then the tax agency to decide.',
    {
      color: SECOND_INK,
    },
  );
  return sheet.finish(scope.employer.name);
}
