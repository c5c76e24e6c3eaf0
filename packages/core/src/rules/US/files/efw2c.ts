import { writeRecord, type FixedField, type FixedRecord } from '../../../files/fixed-width';
import type { Corrected, FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';
import { STATES } from '../states';
import {
  abroad,
  address,
  blank,
  contact,
  digits,
  employerKinds,
  figures,
  inFigures,
  is,
  MONEY,
  MORE,
  named,
  namedBy,
  place,
  text,
  wants,
} from './wage-records';

/**
 * Corrected wage statements for the Social Security Administration (Publication EFW2C): 1,024 columns. Pairs of what was
 * reported and what is right, blank where nothing changes. The order of the fields is the publication's; their positions
 * were not compared with a print of it and are unconfirmed.
 */

/** What was reported, then what is right. */
const pair = (key: string, length: number): FixedField[] => [text(`${key}.before`, length), text(`${key}.now`, length)];
const REST = 1024;
const filled = (fields: FixedField[]): FixedField[] => {
  const used = fields.reduce((sum, { length }) => sum + length, 0);
  return [...fields, blank(REST - used)];
};

const RARE = MORE.filter(([, boxes]) => boxes.length > 0);
const morePairs = (length: number): FixedField[] =>
  MORE.flatMap(([key, boxes]) => (boxes.length ? pair(key, length) : [blank(2 * length)]));
const TOTALLED = MONEY.filter(([, box]) => box !== null);

export const EFW2C_RECORDS = {
  submitter: {
    name: 'Submitter (RCA)',
    fields: filled([
      is('RCA'),
      figures('number', 9),
      text('user', 8),
      text('vendor', 4),
      blank(5),
      text('software', 2),
      text('company', 57),
      ...address('company'),
      ...abroad,
      ...contact,
      blank(3),
      text('email', 40),
      blank(3),
      text('fax', 10),
      blank(1),
      text('preparer', 1),
      text('again', 1),
      text('againOf', 6),
    ]),
  },
  employer: {
    name: 'Employer (RCE)',
    fields: filled([
      is('RCE'),
      figures('year', 4),
      text('numberBefore', 9),
      figures('number', 9),
      text('agent', 1),
      text('agentFor', 9),
      text('establishmentBefore', 4),
      text('establishment', 4),
      text('name', 57),
      ...address('employer'),
      ...abroad,
      text('employmentBefore', 1),
      text('employment', 1),
      text('sickPayBefore', 1),
      text('sickPay', 1),
      text('kind', 1),
      ...contact,
      text('fax', 10),
      text('email', 40),
    ]),
  },
  person: {
    name: 'Employee (RCW)',
    fields: filled([
      is('RCW'),
      text('numberBefore', 9),
      figures('number', 9),
      text('givenBefore', 15),
      text('middleBefore', 15),
      text('familyBefore', 20),
      text('given', 15),
      text('middle', 15),
      text('family', 20),
      ...address('person'),
      ...abroad,
      ...MONEY.flatMap(([key, box]) => (box === null ? [blank(22)] : pair(key, 11))),
      ...pair('statutory', 1),
      ...pair('plan', 1),
      ...pair('sickPay', 1),
    ]),
  },
  more: { name: 'Employee, more (RCO)', fields: filled([is('RCO'), blank(9), ...morePairs(11)]) },
  state: {
    name: 'State (RCS)',
    fields: filled([
      is('RCS'),
      figures('state', 2),
      figures('number', 9),
      text('given', 15),
      text('middle', 15),
      text('family', 20),
      text('account', 20),
      ...pair('wages', 11),
      ...pair('tax', 11),
      ...pair('localWages', 11),
      ...pair('localTax', 11),
    ]),
  },
  total: {
    name: 'Total (RCT)',
    fields: filled([is('RCT'), figures('people', 7), ...TOTALLED.flatMap(([key]) => pair(key, 15))]),
  },
  moreTotal: { name: 'Total, more (RCU)', fields: filled([is('RCU'), figures('people', 7), ...morePairs(15)]) },
  final: { name: 'Final (RCF)', fields: filled([is('RCF'), figures('people', 9)]) },
} as const satisfies Record<string, FixedRecord>;

const MARKED = { statutory: '13 statutory', plan: '13 plan', sickPay: '13 sick pay' };

/** Both sides of a corrected amount, in the length of its field. */
const sides = (
  key: string,
  length: number,
  { before, now }: Pick<Corrected<number>, 'before' | 'now'>,
  who: string,
): Record<string, string> => ({
  [`${key}.before`]: inFigures(before, who).padStart(length, '0'),
  [`${key}.now`]: inFigures(now, who).padStart(length, '0'),
});

const together = (...parts: readonly Record<string, string>[]): Record<string, string> =>
  Object.fromEntries(parts.flatMap((part) => Object.entries(part)));

/** A statement for each person whose statement is corrected, with the totals of what is corrected. */
export function writeEfw2c({ period, copies, corrected = [] }: FilingContent, sender: Sender): string {
  const { contact: asked, employer } = sender;
  const number = digits(sender.number);
  const reach = { contact: asked.name, phone: digits(asked.phone), email: asked.email };
  const totals = new Map<string, { before: number; now: number }>();
  const lines = [
    writeRecord(EFW2C_RECORDS.submitter, {
      number,
      user: textOf(employer, 'submitterId'),
      software: '98',
      company: sender.name,
      ...place('company', sender.address),
      ...reach,
      preparer: 'L',
      again: '0',
    }),
    writeRecord(EFW2C_RECORDS.employer, {
      year: period.taxYear,
      number,
      establishment: textOf(employer, 'establishment'),
      name: sender.name,
      ...place('employer', sender.address),
      ...employerKinds(sender),
      ...reach,
    }),
  ];
  let withMore = 0;
  const add = (key: string, { before, now }: { before: number; now: number }): void => {
    const sum = totals.get(key) ?? { before: 0, now: 0 };
    totals.set(key, { before: sum.before + before, now: sum.now + now });
  };
  for (const { personId, boxes, marks } of corrected) {
    const who = sender.people.get(personId);
    if (!who) throw new RangeError('somebody of the statements is not on file');
    const name = `${who.givenName} ${who.familyName}`;
    const known = sender.known.get(personId);
    const before = known && named({ ...who, ...known });
    const now = named(who);
    const changed = (key: string): string => (before && before[key] !== now[key] ? (before[key] ?? '') : '');
    const amounts = TOTALLED.flatMap(([key, box]) => {
      const found = boxes.find((one) => one.box === box);
      if (!found) return [];
      add(key, found);
      return [sides(key, 11, found, name)];
    });
    const stated = copies.find((copy) => copy.personId === personId)?.boxes ?? [];
    const rare = RARE.flatMap(([key, sum]) => {
      if (!boxes.some(({ box }) => sum.includes(box))) return [];
      // What stays of a sum counts on both sides.
      const now = stated.filter(({ box }) => sum.includes(box)).reduce((all, { amount }) => all + amount, 0);
      const change = boxes.filter(({ box }) => sum.includes(box)).reduce((all, one) => all + one.now - one.before, 0);
      add(key, { before: now - change, now });
      return [sides(key, 11, { before: now - change, now }, name)];
    });
    const marked = Object.entries(MARKED).flatMap(([key, box]) => {
      const found = marks.find((one) => one.box === box);
      return found ? [{ [`${key}.before`]: found.before ? '1' : '0', [`${key}.now`]: found.now ? '1' : '0' }] : [];
    });
    withMore += rare.length ? 1 : 0;
    lines.push(
      writeRecord(EFW2C_RECORDS.person, {
        ...now,
        numberBefore: changed('number'),
        givenBefore: changed('given'),
        middleBefore: changed('middle'),
        familyBefore: changed('family'),
        ...place('person', who.address),
        ...together(...amounts, ...marked),
      }),
      ...(rare.length ? [writeRecord(EFW2C_RECORDS.more, together(...rare))] : []),
      ...statesOf(boxes, now, sender, name),
    );
  }
  const people = String(corrected.length);
  const totalled = (keys: readonly (readonly [string, unknown])[]): Record<string, string> =>
    together(...keys.flatMap(([key]) => (totals.has(key) ? [sides(key, 15, totals.get(key) ?? { before: 0, now: 0 }, 'Totals')] : [])));
  lines.push(
    writeRecord(EFW2C_RECORDS.total, { people, ...totalled(TOTALLED) }),
    ...(withMore ? [writeRecord(EFW2C_RECORDS.moreTotal, { people: String(withMore), ...totalled(RARE) })] : []),
    writeRecord(EFW2C_RECORDS.final, { people }),
  );
  return `${lines.join('\r\n')}\r\n`;
}

function statesOf(
  boxes: readonly Corrected<number>[],
  who: Readonly<Record<string, string>>,
  { employer }: Sender,
  name: string,
): string[] {
  const states = [...new Set(boxes.flatMap(({ box }) => /^1[6-9] ([A-Z]{2})/.exec(box)?.[1] ?? []))];
  return states.map((state) => {
    const code = STATES.find((one) => one.code === state)?.fips;
    if (!code) throw new RangeError(`the rules of the state ${state} are not in`);
    const registered = (employer['states'] as Record<string, { incomeTaxAccount?: string } | undefined> | undefined)?.[state];
    const sum = (key: string, box: string): Record<string, string> => {
      const found = boxes.filter((one) => one.box === `${box} ${state}` || one.box.startsWith(`${box} ${state} `));
      if (!found.length) return {};
      const total = found.reduce((all, one) => ({ before: all.before + one.before, now: all.now + one.now }), { before: 0, now: 0 });
      return sides(key, 11, total, name);
    };
    return writeRecord(EFW2C_RECORDS.state, {
      ...who,
      state: code,
      account: digits(registered?.incomeTaxAccount ?? ''),
      ...sum('wages', '16'),
      ...sum('tax', '17'),
      ...sum('localWages', '18'),
      ...sum('localTax', '19'),
    });
  });
}

export const efw2c: FilingFile = {
  format: 'EFW2C',
  extension: 'txt',
  wants,
  write: writeEfw2c,
  named: namedBy('RCW', EFW2C_RECORDS.person),
};
