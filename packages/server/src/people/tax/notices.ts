import type { GeneralRead, NoticesPage, NoticesRead, ParsedBodyOf } from '@woodruff/contract';
import { counted, writtenDate, type Notice, type NoticeRules, type XmlNode } from '@woodruff/core';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { execute, select, type Transaction } from '../../database/connection';
import { conflict, invalid, notFound } from '../../errors';
import { packFor, type Scope } from '../../scope';
import { changing } from '../../users/changing';
import { theVault } from '../../vault/vault';
import { addTaxDetails, correctTaxDetails } from './tax-details';

function rulesOf(scope: Scope): NoticeRules {
  const { notices } = packFor(scope);
  if (!notices) throw notFound('notices');
  return notices;
}

export async function noticesPage(scope: Scope): Promise<NoticesPage> {
  const rules = packFor(scope).notices;
  if (!rules) return { rules: null, used: [] };
  const { title, format, general } = rules;
  const used = await select<NoticesPage['used'][number]>(
    scope.database,
    `select n.person_id as "personId", p.family_name || ', ' || p.given_name as name, n.label, n.issued, n.from_date as "from", u.name as by, to_char(n.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at
     from tax_notices n join people p on p.id = n.person_id join users u on u.id = n.user_id where n.employer_id = :employer order by n.id desc limit 500`,
    { employer: scope.employer.id },
  );
  const fields = general.fields.map(({ key, label, kind, choices }) => ({ key, label, kind, choices: [...(choices ?? [])] }));
  return { rules: { title, format, general: { title: general.title, help: general.help, fields } }, used };
}

type Parsed = Record<string, unknown>;

/** Whatever the file is, as elements; nothing of it is interpreted here. */
function treeOf(content: string): XmlNode {
  const valid = XMLValidator.validate(content);
  if (valid !== true)
    throw invalid(`The file is not XML that can be read: line ${valid.err.line}, ${valid.err.msg}`, [
      { path: 'content', expected: 'an XML file' },
    ]);
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseTagValue: false,
    processEntities: true,
  });
  const nodes = parser.parse(content) as Parsed[];
  return { name: '', attributes: {}, text: '', children: nodes.flatMap(nodeOf) };
}

function nodeOf(parsed: Parsed): XmlNode[] {
  const name = Object.keys(parsed).find((key) => key !== ':@' && key !== '#text');
  if (!name || name.startsWith('?')) return [];
  const inner = parsed[name] as Parsed[];
  return [
    {
      name,
      attributes: (parsed[':@'] ?? {}) as Record<string, string>,
      text: inner.flatMap((one) => (typeof one['#text'] === 'string' ? [one['#text']] : [])).join(''),
      children: inner.flatMap(nodeOf),
    },
  ];
}

interface Matched {
  notice: Notice;
  personId: string | null;
  name: string;
  problem: string | null;
  used: boolean;
}

/** Each notice with whose it is: by the national number, and where a notice has none by the payroll number. */
async function matched(scope: Scope, notices: readonly Notice[], transaction?: Transaction): Promise<Matched[]> {
  const people = await select<{ id: string; code: string; name: string; left: string | null; sealed: Buffer | null }>(
    scope.database,
    `select id, code, family_name || ', ' || given_name as name, "left", number_sealed as sealed from people where employer_id = :employer and kind <> 'contractor'`,
    { employer: scope.employer.id },
    transaction,
  );
  const byNumber = new Map(people.flatMap((one) => (one.sealed ? [[theVault().openIfOf(one.sealed, `number:${one.id}`) ?? '', one]] : [])));
  const used = await select<{ personId: string; kind: string; label: string; issued: string }>(
    scope.database,
    'select person_id as "personId", kind, label, issued from tax_notices where employer_id = :employer',
    { employer: scope.employer.id },
    transaction,
  );
  const own = packFor(scope).employerNumber(scope.employer.facts.country);
  return notices.map((notice) => {
    const person = notice.number ? byNumber.get(notice.number) : people.find(({ code }) => code === notice.code);
    const of = used.filter(({ personId, kind }) => personId === person?.id && kind === notice.kind);
    const newest = of
      .map(({ issued }) => issued)
      .sort()
      .at(-1);
    const before = of.some(({ label, issued }) => label === notice.label && issued === notice.issued);
    const problem =
      notice.employer !== own
        ? `it is for another employer, ${notice.employer || 'which it does not name'}`
        : !person
          ? 'nobody on file has this number'
          : before
            ? null
            : newest !== undefined && newest > notice.issued
              ? `a later notice, of ${writtenDate(newest)}, is on file`
              : person.left && person.left < notice.from
                ? `left on ${writtenDate(person.left)}`
                : null;
    return { notice, personId: person?.id ?? null, name: person?.name ?? notice.name, problem, used: before };
  });
}

export async function checkNotices(scope: Scope, content: string): Promise<NoticesRead> {
  const { notices, faults } = rulesOf(scope).read(treeOf(content));
  const rows = await matched(scope, notices);
  return {
    faults,
    rows: rows.map(({ notice: { label, issued, from }, ...rest }) => ({
      label,
      issued,
      from,
      name: rest.name,
      personId: rest.personId,
      problem: rest.problem,
      used: rest.used,
    })),
  };
}

/** All that were chosen, or none: those of one person in the order of their days. */
export async function applyNotices(scope: Scope, { content, chosen }: ParsedBodyOf<'applyNotices'>): Promise<{ changed: number }> {
  const { notices } = rulesOf(scope).read(treeOf(content));
  return changing(scope, async (transaction) => {
    const all = await matched(scope, notices, transaction);
    const wanted = [...new Set(chosen)].map((index) => {
      const one = all[index];
      if (!one) throw invalid('A notice that was chosen is not in the file.', [{ path: 'chosen', expected: 'notices of the file' }]);
      return one;
    });
    wanted.sort((a, b) => a.notice.from.localeCompare(b.notice.from) || a.notice.issued.localeCompare(b.notice.issued));
    for (const { notice, personId, name, problem, used } of wanted) {
      if (used) throw conflict('used-before', `${name}: ${notice.label} was used before.`);
      if (problem || !personId)
        throw invalid(`${name}: ${notice.label} cannot be used, as ${problem ?? 'nobody has it'}.`, [
          { path: 'chosen', expected: 'without it' },
        ]);
      await changeFrom(scope, personId, notice.from, (facts) => ({ ...facts, ...notice.changes }), transaction);
      await execute(
        scope.database,
        `insert into tax_notices (employer_id, person_id, kind, label, issued, from_date, user_id) values (:employer, :personId, :kind, :label, :issued, :from, :user) returning id`,
        {
          employer: scope.employer.id,
          personId,
          kind: notice.kind,
          label: notice.label,
          issued: notice.issued,
          from: notice.from,
          user: scope.user.id,
        },
        transaction,
      );
    }
    return { changed: wanted.length };
  });
}

interface Details {
  id: string;
  from: string;
  facts: Record<string, unknown>;
}

/** Details as they stand on a day become others from it on; those of later days, too, as far as they are to be changed. */
async function changeFrom(
  scope: Scope,
  personId: string,
  from: string,
  change: (facts: Record<string, unknown>) => Record<string, unknown>,
  transaction: Transaction,
): Promise<void> {
  const [stands] = await select<Details>(
    scope.database,
    'select id, from_date as "from", facts from tax_details where person_id = :personId and from_date <= :from order by from_date desc limit 1',
    { personId, from },
    transaction,
  );
  if (!stands)
    throw invalid(`No tax details are on file before ${writtenDate(from)}. Enter them on the person's page first.`, [
      { path: 'from', expected: 'a day with tax details on file' },
    ]);
  const facts = change(stands.facts);
  if (stands.from === from) await correctTaxDetails(scope, personId, stands.id, { from, facts });
  else await addTaxDetails(scope, personId, { from, facts });
}

interface OfEverybody {
  personId: string;
  name: string;
  facts: Record<string, unknown>;
  later: boolean;
}

/** Whose details a general change is about: everybody who is employed on the day. */
const everybody = (scope: Scope, from: string, transaction?: Transaction): Promise<OfEverybody[]> =>
  select<OfEverybody>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, t.facts, exists (select 1 from tax_details l where l.person_id = p.id and l.from_date >= :from) as later
     from people p cross join lateral (select facts from tax_details where person_id = p.id and from_date < :from order by from_date desc limit 1) t
     where p.employer_id = :employer and p.kind <> 'contractor' and (p."left" is null or p."left" >= :from) order by 2`,
    { employer: scope.employer.id, from },
    transaction,
  );

export async function checkGenerally(
  scope: Scope,
  { from, entered }: ParsedBodyOf<'checkGenerally'>,
  transaction?: Transaction,
): Promise<GeneralRead> {
  const { general } = rulesOf(scope);
  const all = await everybody(scope, from, transaction);
  const rows = all.flatMap(({ personId, name, facts, later }) => {
    const after = general.apply(facts, entered);
    return after
      ? [
          {
            personId,
            name,
            before: general.says(facts),
            after: general.says(after),
            problem: later ? 'details from this day or a later one are on file and stay' : null,
          },
        ]
      : [];
  });
  return { rows, unchanged: all.length - rows.length };
}

/** Everybody whose details it changes; who has details of the day or later already keeps them. */
export async function changeGenerally(scope: Scope, { from, entered }: ParsedBodyOf<'changeGenerally'>): Promise<{ changed: number }> {
  const { general } = rulesOf(scope);
  return changing(scope, async (transaction) => {
    let changed = 0;
    for (const { personId, facts, later } of await everybody(scope, from, transaction)) {
      const after = general.apply(facts, entered);
      if (!after || later) continue;
      await addTaxDetails(scope, personId, { from, facts: after });
      changed += 1;
    }
    if (!changed) throw conflict('nothing-changes', `Nobody's details change: ${counted(0, 'person', 'people')}. Enter what is added.`);
    return { changed };
  });
}
