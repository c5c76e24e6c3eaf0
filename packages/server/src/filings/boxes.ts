import type { BoxMap, ParsedBodyOf } from '@woodruff/contract';
import { placeOfItem, type Filing, type PayItem } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { invalid, notFound } from '../errors';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { filingsOf } from './make';
import { astray } from './moved-items';

interface Put {
  filing: string;
  box: string;
  label: string;
}
interface ItemRow {
  id: string;
  retired: boolean;
  definition: PayItem;
  put: Put | null;
  toEmployees: number;
  toContractors: number;
}

/** Items with what was posted of them in a tax year, and where the employer has put them for it. */
const itemsOf = (scope: Scope, year: string): Promise<ItemRow[]> =>
  select<ItemRow>(
    scope.database,
    `select i.id, i.retired, i.definition, coalesce(s.employees, 0)::bigint as "toEmployees", coalesce(s.contractors, 0)::bigint as "toContractors",
            (select case when b.derived then null else json_build_object('filing', b.filing, 'box', b.box, 'label', b.label) end from item_boxes b where b.item_id = i.id and b.from_year <= :year order by b.from_year desc limit 1) as put
     from pay_items i
     left join (select b.code, sum(b.amount) filter (where p.kind <> 'contractor') as employees, sum(b.amount) filter (where p.kind = 'contractor') as contractors
                from balances b join people p on p.id = b.person_id where b.employer_id = :employer and b.tax_year = :year group by b.code) s on s.code = i.code
     where i.employer_id = :employer order by (i.definition->>'order')::int, i.definition->>'name'`,
    { employer: scope.employer.id, year },
  );

/** Forms that state the same people: an item stands on one of them. */
const together = (all: readonly Filing[], one: Filing): Filing[] =>
  all.filter(({ copies, every }) => copies && every === 'year' && copies.of === one.copies?.of);

/** Where each pay item stands on the statements of a year. What was posted and has no box is open. */
export async function boxMap(scope: Scope, asked?: string): Promise<BoxMap> {
  const pack = packFor(scope);
  const year = asked ?? pack.taxYearOf(scope.employer.today).label;
  const places = pack.placesOf(scope.employer.facts.country);
  const all = filingsOf(scope);
  const items = await itemsOf(scope, year);
  const toMove = year === pack.taxYearOf(scope.employer.today).label ? await astray(scope) : new Set<string>();
  // The first of those that state the same people stands for them all.
  const heads = all.filter((one) => one.copies && together(all, one)[0] === one);
  return {
    year,
    filings: heads.map((head) => {
      const forms = together(all, head);
      return {
        filing: head.code,
        name: forms.map(({ copies }) => copies?.name).join(', '),
        items: items.flatMap(({ id, retired, definition, put, toEmployees, toContractors }) => {
          const posted = head.copies?.of === 'contractors' ? toContractors : toEmployees;
          if (!posted && (retired || head.copies?.of === 'contractors')) return [];
          const place = placeOfItem(pack, head, definition, places);
          const here = put && (put.box === '' || forms.some(({ code }) => code === put.filing)) ? put : null;
          return [
            {
              id,
              code: definition.code,
              name: definition.name,
              kind: definition.kind,
              treatment: pack.treatments[definition.treatment]?.label ?? definition.treatment,
              posted,
              boxes: place.byTreatment,
              none: place.none ?? null,
              offered: forms.flatMap(({ code, copies }) =>
                (copies?.itemBoxes ?? [])
                  .filter((one) => one.for.includes(definition.kind))
                  .map(({ box, label, words }) => ({
                    filing: code,
                    box,
                    label: forms.length > 1 ? `${copies?.name}: ${label}` : label,
                    words: words ?? false,
                  })),
              ),
              put: here,
              astray: toMove.has(id),
              open: posted !== 0 && !here && !place.byTreatment.length && place.none === undefined,
            },
          ];
        }),
      };
    }),
  };
}

/** Puts items into boxes from a tax year on. What was filed of earlier years stays as it was. */
export async function setItemBoxes(scope: Scope, { year, items }: ParsedBodyOf<'setItemBoxes'>): Promise<void> {
  const all = filingsOf(scope);
  await changing(scope, async (transaction) => {
    const known = new Map((await itemsOf(scope, year)).map((item) => [item.id, item]));
    for (const { id, put } of items) {
      const item = known.get(id);
      if (!item) throw notFound('pay item');
      const filing = put?.box ? all.find(({ code }) => code === put.filing) : undefined;
      const box = filing?.copies?.itemBoxes?.find((one) => one.box === put?.box && one.for.includes(item.definition.kind));
      if (put?.box && !box)
        throw invalid(`${item.definition.name} cannot stand in box ${put.box}. Choose one of those that are offered for it.`, [
          { path: 'items', expected: 'a box offered for the item' },
        ]);
      if (box?.words && !put?.label)
        throw invalid(`Box ${box.box} wants words beside the amount of ${item.definition.name}. Write what the employee is to read.`, [
          { path: 'items', expected: 'words for the box' },
        ]);
      await execute(
        scope.database,
        `insert into item_boxes (item_id, from_year, employer_id, filing, box, label, derived) values (:id, :year, :employer, :filing, :box, :label, :derived)
         on conflict (item_id, from_year) do update set filing = excluded.filing, box = excluded.box, label = excluded.label, derived = excluded.derived returning item_id`,
        {
          id,
          year,
          employer: scope.employer.id,
          filing: filing?.code ?? '',
          box: box?.box ?? '',
          label: box?.words ? (put?.label ?? '') : '',
          derived: put === null,
        },
        transaction,
      );
      const where = put === null ? 'as its tax treatment says' : box ? `box ${box.box} of ${filing?.form}` : 'in no box, on purpose';
      const what = `${item.definition.name} on statements from ${year} on: ${where}`;
      await record(scope, { action: 'change', subject: 'pay-item', subjectId: id, what }, transaction);
    }
  });
}
