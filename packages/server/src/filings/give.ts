import type { CopiesGiven, ParsedBodyOf } from '@woodruff/contract';
import { counted } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, notFound } from '../errors';
import { personOf } from '../people/person';
import type { Scope } from '../scope';
import { changing } from '../users/changing';
import { contentOf, eventsOf, type Content } from './events';
import { copiesPdf } from './copies-print';
import { filingOf } from './make';

/** The statements that are given out: those of the latest attempt that was not taken back or rejected. */
async function finalOf(scope: Scope, code: string, key: string): Promise<{ attempt: number; content: Content } | undefined> {
  const events = await eventsOf(scope, code, key);
  const gone = new Set(events.filter(({ step }) => step === 'withdrawn' || step === 'rejected').map(({ attempt }) => attempt));
  const last = events.filter(({ step, attempt }) => step === 'prepared' && !gone.has(attempt)).at(-1);
  const content = last && (await contentOf(scope, code, key, last.attempt));
  return content ? { attempt: last.attempt, content } : undefined;
}

/** Whose statements of a final attempt are to be given: of a correction, those whose statement it corrects. */
const named = ({ copies, corrected }: Content): { personId: string; name: string; control: number | null }[] =>
  corrected
    ? corrected.map(({ personId, name }) => ({
        personId,
        name,
        control: copies.find((copy) => copy.personId === personId)?.control ?? null,
      }))
    : copies.map(({ personId, name, control }) => ({ personId, name, control }));

/** Who was given their statement, how, and who wants it how. */
export async function copiesGiven(scope: Scope, code: string, key: string): Promise<CopiesGiven> {
  const { filing } = filingOf(scope, code, key);
  if (!filing.copies) throw notFound('statement');
  const final = await finalOf(scope, code, key);
  if (!final) return { attempt: null, people: [] };
  const rows = await select<{ id: string } & Pick<CopiesGiven['people'][number], 'email' | 'electronic' | 'consent' | 'given'>>(
    scope.database,
    `select p.id, case when p.number_last4 is not null and coalesce(p.address->>'postcode', '') <> '' then nullif(p.email, '') end as email, p.electronic_forms as electronic,
            (select json_build_object('step', c.step, 'on', c.on_day, 'means', c.means) from form_consents c where c.person_id = p.id order by c.id desc limit 1) as consent,
            coalesce((select json_agg(json_build_object('how', g.how, 'on', g.on_day) order by g.at) from copies_given g where g.person_id = p.id and g.filing = :code and g.period = :key and g.attempt = :attempt), '[]') as given
     from people p where p.employer_id = :employer`,
    { employer: scope.employer.id, code, key, attempt: final.attempt },
  );
  const known = new Map(rows.map(({ id, ...row }) => [id, row]));
  const nobody = { email: null, electronic: null, consent: null, given: [] };
  return {
    attempt: final.attempt,
    people: named(final.content).map((one) => ({ ...one, ...(known.get(one.personId) ?? nobody) })),
  };
}

/**
 * Gives final statements out. Electronically only to who has agreed to it, by then and not withdrawn since; each person
 * once in each way, however often this is asked.
 */
export async function giveCopies(scope: Scope, code: string, key: string, { how, people }: ParsedBodyOf<'giveCopies'>): Promise<number> {
  const { filing, period } = filingOf(scope, code, key);
  return changing(scope, async (transaction) => {
    const { attempt, people: all } = await copiesGiven(scope, code, key);
    if (attempt === null)
      throw conflict(
        'not-prepared',
        `${filing.form}, ${period.label} is a draft. Prepare it first: what is given out is final and has its number.`,
      );
    const wanted = people.length ? all.filter(({ personId }) => people.includes(personId)) : all;
    const refused = people.length && how !== 'paper' ? wanted.filter(({ electronic }) => !electronic) : [];
    if (refused[0])
      throw conflict(
        'no-consent',
        `${refused[0].name} has not agreed to electronic statements. Ask for the consent, or hand it over on paper.`,
      );
    const fits = wanted.filter(({ electronic, email, given }) => {
      if (given.some((one) => one.how === how)) return false;
      if (how === 'paper') return people.length > 0 || !given.length;
      return electronic !== null && electronic <= scope.employer.today && (how === 'inbox' || email !== null);
    });
    if (!fits.length) return 0;
    const rows = (await execute(
      scope.database,
      `insert into copies_given (employer_id, filing, period, attempt, person_id, how, on_day, user_id)
       select :employer, :code, :key, :attempt, p.id, :how, :today, :user from people p where p.id in (:ids) on conflict do nothing returning id, person_id as "personId"`,
      {
        employer: scope.employer.id,
        code,
        key,
        attempt,
        how,
        today: scope.employer.today,
        user: scope.user.id,
        ids: fits.map(({ personId }) => personId),
      },
      transaction,
    )) as { id: string; personId: string }[];
    if (how === 'mail') await mail(scope, rows, `${filing.copies?.name} for ${period.label}`, transaction);
    const ways = { inbox: 'to their own view', mail: 'by mail', paper: 'on paper' };
    const what = `${filing.copies?.name}, ${period.label}: ${counted(rows.length, 'statement', 'statements')} given ${ways[how]}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
    return rows.length;
  });
}

const mail = (scope: Scope, given: readonly { id: string }[], title: string, transaction: Transaction): Promise<unknown> =>
  execute(
    scope.database,
    `insert into outbox (employer_id, kind, to_address, to_name, subject, body, copy_given_id)
     select :employer, 'statement', p.email, p.given_name || ' ' || p.family_name, :title, :body, g.id from copies_given g join people p on p.id = g.person_id where g.id in (:ids) returning id`,
    {
      employer: scope.employer.id,
      title,
      body: `${title} from ${scope.employer.name} is attached. It opens with the last four figures of your number followed by your postcode, without blanks.`,
      ids: given.map(({ id }) => id),
    },
    transaction,
  );

/** Asks somebody for consent to electronic statements, or records what was said elsewhere. */
export async function formConsent(scope: Scope, personId: string, { step, means }: ParsedBodyOf<'formConsent'>): Promise<void> {
  await changing(scope, async (transaction) => {
    const person = await personOf(scope, personId, transaction);
    await keepConsent(scope, personId, { step, means }, transaction);
    if (step !== 'asked') {
      const from = step === 'given' ? scope.employer.today : null;
      await person.update({ electronicForms: from }, { transaction });
    } else if (person.email)
      await execute(
        scope.database,
        `insert into outbox (employer_id, kind, to_address, to_name, subject, body) values (:employer, 'consent', :to, :name, :subject, :body) returning id`,
        {
          employer: scope.employer.id,
          to: person.email,
          name: `${person.givenName} ${person.familyName}`,
          subject: 'Your year-end statements, electronically?',
          body: `${scope.employer.name} asks whether you want your year-end statements electronically and no longer on paper. You agree in your own view, and can withdraw there at any time; until then they come on paper.`,
        },
        transaction,
      );
  });
}

/** What was said of electronic statements, with the means by which it was. */
export async function keepConsent(
  scope: Scope,
  personId: string,
  { step, means }: ParsedBodyOf<'formConsent'>,
  transaction: Transaction,
): Promise<void> {
  await execute(
    scope.database,
    `insert into form_consents (employer_id, person_id, step, means, on_day, user_id) values (:employer, :personId, :step, :means, :today, :user) returning id`,
    { employer: scope.employer.id, personId, step, means, today: scope.employer.today, user: scope.user.id },
    transaction,
  );
  const said = { asked: 'Asked for consent to', given: 'Consent given to', withdrawn: 'Consent withdrawn to' }[step];
  const what = `${said} electronic year-end statements, ${means}`;
  await record(scope, { action: 'consent', subject: 'person', subjectId: personId, what }, transaction);
}

/** What a statement that was given to somebody is called, of a period, and whether it corrects another one. */
export async function titleOfCopy(
  scope: Scope,
  code: string,
  key: string,
  attempt: number,
  personId: string,
): Promise<{ name: string; label: string; corrected: boolean }> {
  const { filing, period } = filingOf(scope, code, key);
  const corrections = (await contentOf(scope, code, key, attempt))?.corrected;
  const corrected = corrections !== undefined && !corrections.some((one) => one.personId === personId && one.first);
  return { name: (corrected ? filing.copies?.corrected : filing.copies?.name) ?? filing.form, label: period.label, corrected };
}

/** A statement as it was given to somebody; locked where a password is wanted. */
export async function copyGivenPdf(
  scope: Scope,
  { filing, period, attempt, personId }: { filing: string; period: string; attempt: number; personId: string },
  password?: string,
): Promise<Buffer> {
  const { corrected } = await titleOfCopy(scope, filing, period, attempt, personId);
  const each = corrected ? 1 : 2;
  return copiesPdf(scope, filing, period, { person: personId, attempt, corrected, each }, password);
}

/** The same as it hangs on a message: it opens with the end of the number, followed by the postcode. */
export async function mailedCopy(scope: Scope, id: string): Promise<Buffer> {
  const [given] = await select<{
    filing: string;
    period: string;
    attempt: number;
    personId: string;
    last4: string | null;
    postcode: string;
  }>(
    scope.database,
    `select g.filing, g.period, g.attempt, g.person_id as "personId", p.number_last4 as last4, coalesce(p.address->>'postcode', '') as postcode
     from copies_given g join people p on p.id = g.person_id where g.id = :id and g.employer_id = :employer and g.how = 'mail'`,
    { id, employer: scope.employer.id },
  );
  if (!given) throw notFound('statement');
  return copyGivenPdf(scope, given, `${given.last4 ?? ''}${given.postcode.replace(/\s/g, '')}`);
}
