import { payItemSchema, type EnrolmentPage, type ParsedBodyOf } from '@woodruff/contract';
import { Exact, type EnrolmentLaw } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import { addPayItem } from '../pay-items/service';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';

export type Scheme = Omit<EnrolmentPage['schemes'][number], 'employeeItem' | 'employerItem'> & {
  employeeItemId: string;
  employerItemId: string;
  employeeItem: string;
  employerItem: string;
};

export function lawOf(scope: Scope): EnrolmentLaw {
  const { enrolment } = packFor(scope);
  if (!enrolment) throw notFound('savings schemes of the law');
  return enrolment;
}

/** Schemes with how many are in each through its items. */
export const schemesOf = (scope: Scope, transaction?: Transaction): Promise<Scheme[]> =>
  select<Scheme>(
    scope.database,
    `select s.id, s.name, s.provider, s.reference, s.member_group as "group", s.choices, s.tiers, s.employer_at_most as "employerAtMost", s.version, s.employee_item as "employeeItemId", s.employer_item as "employerItemId",
            e.code as "employeeItem", r.code as "employerItem",
            (select count(distinct h.person_id) from person_items h where h.item_id in (s.employee_item, s.employer_item) and h.from_date <= :today and coalesce(h.to_date, 'infinity') >= :today) as members
     from savings_schemes s join pay_items e on e.id = s.employee_item join pay_items r on r.id = s.employer_item where s.employer_id = :employer order by s.name, s.id`,
    { employer: scope.employer.id, today: scope.employer.today },
    transaction,
  );

/** A scheme comes with two pay items, whose codes are its own from now on; both are paid to its provider. */
export async function addSavingsScheme(scope: Scope, body: ParsedBodyOf<'addSavingsScheme'>): Promise<{ id: string }> {
  const law = lawOf(scope);
  const { employee, employer } = itemsOf(law, body.choices);
  checkTiers(body.tiers);
  return changing(scope, async (transaction) => {
    const schemes = await schemesOf(scope, transaction);
    if (schemes.some(({ name }) => name.toLowerCase() === body.name.toLowerCase()))
      throw conflict('scheme-exists', `There is a scheme named ${body.name} already. Change that one, or give this another name.`);
    const number = schemes.length + 1;
    const goes = { payee: body.provider, ...(body.reference ? { reference: body.reference } : {}) };
    const item = async (of: typeof employee, kind: 'deduction' | 'employer-contribution', code: string, order: number) =>
      addPayItem(
        scope,
        payItemSchema.parse({
          code,
          name: kind === 'deduction' ? body.name : `${body.name}, employer's`,
          kind,
          treatment: of.treatment,
          method: of.method,
          order,
          goes,
          ...(kind === 'deduction' ? { shortfall: 'take-part' } : {}),
          ...(kind === 'employer-contribution' && body.employerAtMost ? { limits: { perYear: body.employerAtMost } } : {}),
        }),
      );
    const taken = await item(employee, 'deduction', `scheme-${number}`, 150);
    const put = await item(employer, 'employer-contribution', `scheme-${number}-employer`, 406);
    const [made] = (await execute(
      scope.database,
      `insert into savings_schemes (employer_id, name, provider, reference, member_group, choices, tiers, employer_at_most, employee_item, employer_item)
       values (:employer, :name, :provider, :reference, :group, :choices, :tiers, :employerAtMost, :taken, :put) returning id`,
      {
        ...body,
        choices: JSON.stringify(body.choices),
        tiers: JSON.stringify(body.tiers),
        employer: scope.employer.id,
        taken: taken.id,
        put: put.id,
      },
      transaction,
    )) as { id: string }[];
    await told(scope, `Added the scheme ${body.name} of ${body.provider}`, transaction);
    return { id: made?.id ?? '' };
  });
}

/** What its contributions are of stays as it is, as what was paid does: another basis is another scheme. */
export async function changeSavingsScheme(
  scope: Scope,
  id: string,
  body: ParsedBodyOf<'changeSavingsScheme'>,
): Promise<Record<string, never>> {
  checkTiers(body.tiers);
  return changing(scope, async (transaction) => {
    const scheme = (await schemesOf(scope, transaction)).find((one) => one.id === id);
    if (!scheme) throw notFound('scheme');
    if (scheme.version !== body.version)
      throw conflict('changed-meanwhile', 'Somebody else changed the scheme meanwhile. Look at it, then save again.');
    await execute(
      scope.database,
      `update savings_schemes set name = :name, provider = :provider, reference = :reference, member_group = :group, tiers = :tiers, version = version + 1 where id = :id`,
      { ...body, tiers: JSON.stringify(body.tiers), id },
      transaction,
    );
    await told(scope, `Changed the scheme ${body.name}`, transaction);
    return {};
  });
}

function itemsOf(law: EnrolmentLaw, choices: Readonly<Record<string, string>>) {
  try {
    return law.scheme.items(choices);
  } catch (error) {
    if (error instanceof RangeError)
      throw invalid(`The scheme does not go together: choose ${error.message}.`, [{ path: 'choices', expected: error.message }]);
    throw error;
  }
}

function checkTiers(tiers: Scheme['tiers']): void {
  const twice = tiers.find(({ code }, index) => tiers.findIndex((other) => other.code === code) !== index);
  if (twice) throw invalid(`Two groups have the code ${twice.code}.`, [{ path: 'tiers', expected: 'a code of its own for each group' }]);
  const high = tiers.find(({ employee, employer }) => [employee, employer].some((percent) => Exact.of(percent).isAbove(Exact.whole(100))));
  if (high) throw invalid(`${high.label} puts in more than all of the pay.`, [{ path: 'tiers', expected: 'per cents up to 100' }]);
}

const told = (scope: Scope, what: string, transaction: Transaction): Promise<void> =>
  record(scope, { action: 'enrolment', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
