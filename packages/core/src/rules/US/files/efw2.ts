import { readRecord, writeRecord, type FixedField, type FixedRecord } from '../../../files/fixed-width';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender, type Stated } from '../../../filings/sender';
import type { Copy, Mark } from '../../../filings/filing';
import { STATES } from '../states';
import { efw2c } from './efw2c';
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
 * Wage statements for the Social Security Administration (Publication EFW2): 512 columns. Positions as published for tax
 * year 2024; those of later years, and the codes that are new in 2026, are unconfirmed.
 */

const moreFields = (length: number): FixedField[] => MORE.map(([key]) => (key === 'unused' ? blank(length) : figures(key, length)));

/** Totals stand in another order than the amounts of a person, and hold the tax withheld on third-party sick pay. */
export const TOTALS = [
  'wages',
  'withheld',
  'socialWages',
  'socialTax',
  'medicareWages',
  'medicareTax',
  'socialTips',
  'unused1',
  'dependentCare',
  'codeD',
  'codeE',
  'codeF',
  'codeG',
  'codeH',
  'unused2',
  'nonqualified457',
  'codeW',
  'nonqualifiedOther',
  'codeQ',
  'codeDD',
  'codeC',
  'sickPayTax',
  'codeV',
  'codeY',
  'codeAA',
  'codeBB',
  'codeFF',
];

export const EFW2_RECORDS = {
  submitter: {
    name: 'Submitter (RA)',
    fields: [
      is('RA'),
      figures('number', 9),
      text('user', 8),
      text('vendor', 4),
      blank(5),
      text('again', 1),
      text('againOf', 6),
      text('software', 2),
      text('company', 57),
      ...address('company'),
      ...abroad,
      text('submitter', 57),
      ...address('submitter'),
      ...abroad,
      ...contact,
      blank(3),
      text('email', 40),
      blank(3),
      text('fax', 10),
      blank(1),
      text('preparer', 1),
      blank(12),
    ],
  },
  employer: {
    name: 'Employer (RE)',
    fields: [
      is('RE'),
      figures('year', 4),
      text('agent', 1),
      figures('number', 9),
      text('agentFor', 9),
      figures('terminating', 1),
      text('establishment', 4),
      text('otherNumber', 9),
      text('name', 57),
      ...address('employer'),
      text('kind', 1),
      blank(4),
      blank(23),
      blank(15),
      blank(2),
      text('employment', 1),
      text('jurisdiction', 1),
      figures('sickPay', 1),
      ...contact,
      text('fax', 10),
      text('email', 40),
      blank(194),
    ],
  },
  person: {
    name: 'Employee (RW)',
    fields: [
      is('RW'),
      figures('number', 9),
      text('given', 15),
      text('middle', 15),
      text('family', 20),
      text('suffix', 4),
      ...address('person'),
      ...abroad,
      ...MONEY.map(([key, box]) => (key.startsWith('unused') && box === null ? blank(11) : figures(key, 11))),
      blank(1),
      figures('statutory', 1),
      blank(1),
      figures('plan', 1),
      figures('sickPay', 1),
      blank(23),
    ],
  },
  more: {
    name: 'Employee, more (RO)',
    fields: [is('RO'), blank(9), ...moreFields(11), blank(347)],
  },
  state: {
    name: 'State (RS)',
    fields: [
      is('RS'),
      figures('state', 2),
      text('entity', 5),
      figures('number', 9),
      text('given', 15),
      text('middle', 15),
      text('family', 20),
      text('suffix', 4),
      ...address('person'),
      ...abroad,
      text('optional', 2),
      text('period', 6),
      figures('quarterWages', 11),
      figures('quarterTaxable', 11),
      text('weeks', 2),
      text('first', 8),
      text('separated', 8),
      blank(5),
      text('account', 20),
      blank(6),
      figures('stateAgain', 2),
      figures('wages', 11),
      figures('tax', 11),
      text('other', 10),
      text('taxType', 1),
      figures('localWages', 11),
      figures('localTax', 11),
      text('control', 7),
      text('supplemental1', 75),
      text('supplemental2', 75),
      blank(25),
    ],
  },
  total: {
    name: 'Total (RT)',
    fields: [is('RT'), figures('people', 7), ...TOTALS.map((key) => (key.startsWith('unused') ? blank(15) : figures(key, 15))), blank(98)],
  },
  moreTotal: {
    name: 'Total, more (RU)',
    fields: [is('RU'), figures('people', 7), ...moreFields(15), blank(293)],
  },
  final: { name: 'Final (RF)', fields: [is('RF'), blank(5), figures('people', 9), blank(496)] },
} as const satisfies Record<string, FixedRecord>;

const amountOf = (copy: Copy, box: string): number => copy.boxes.find((one) => one.box === box)?.amount ?? 0;
const inAllFigures = (amounts: Readonly<Record<string, number>>, who: string): Record<string, string> =>
  Object.fromEntries(Object.entries(amounts).map(([key, amount]) => [key, inFigures(amount, who)]));
const has = (marks: readonly Mark[], box: string): boolean => marks.some((mark) => mark.box === box && mark.text !== '');

/** Everybody's statement with the employer before them and the totals behind. */
export function writeEfw2({ period, copies, lines: totalLines }: FilingContent, sender: Sender): string {
  const { contact: asked, employer } = sender;
  const number = digits(sender.number);
  const reach = { contact: asked.name, phone: digits(asked.phone), email: asked.email };
  const lines = [
    writeRecord(EFW2_RECORDS.submitter, {
      number,
      user: textOf(employer, 'submitterId'),
      again: '0',
      software: '98',
      company: sender.name,
      ...place('company', sender.address),
      submitter: sender.name,
      ...place('submitter', sender.address),
      ...reach,
      preparer: 'L',
    }),
    writeRecord(EFW2_RECORDS.employer, {
      year: period.taxYear,
      number,
      terminating: employer['closed'] === true ? '1' : '0',
      establishment: textOf(employer, 'establishment'),
      otherNumber: digits(textOf(employer, 'otherFederalNumber')),
      name: sender.name,
      ...place('employer', sender.address),
      ...employerKinds(sender),
      sickPay: copies.some(({ marks }) => has(marks, '13 sick pay')) ? '1' : '0',
      ...reach,
    }),
  ];
  const totals: Record<string, number> = {};
  const more: Record<string, number> = {};
  let withMore = 0;
  for (const copy of copies) {
    const who = sender.people.get(copy.personId);
    if (!who) throw new RangeError('somebody of the statements is not on file');
    const name = `${who.givenName} ${who.familyName}`;
    const amounts = Object.fromEntries(MONEY.map(([key, box]) => [key, box === null ? 0 : amountOf(copy, box)]));
    for (const [key, amount] of Object.entries(amounts)) totals[key] = (totals[key] ?? 0) + amount;
    lines.push(
      writeRecord(EFW2_RECORDS.person, {
        ...named(who),
        ...place('person', who.address),
        ...inAllFigures(amounts, name),
        statutory: has(copy.marks, '13 statutory') ? '1' : '0',
        plan: has(copy.marks, '13 plan') ? '1' : '0',
        sickPay: has(copy.marks, '13 sick pay') ? '1' : '0',
      }),
    );
    const rare = Object.fromEntries(MORE.map(([key, boxes]) => [key, boxes.reduce((sum, box) => sum + amountOf(copy, box), 0)]));
    if (Object.values(rare).some(Boolean)) {
      withMore += 1;
      for (const [key, amount] of Object.entries(rare)) more[key] = (more[key] ?? 0) + amount;
      lines.push(writeRecord(EFW2_RECORDS.more, inAllFigures(rare, name)));
    }
    lines.push(...statesOf(copy, who, sender));
  }
  lines.push(
    writeRecord(EFW2_RECORDS.total, {
      people: String(copies.length),
      ...inAllFigures({ ...totals, sickPayTax: totalLines.find(({ line }) => line === 'W-3 14')?.amount ?? 0 }, 'Totals'),
    }),
  );
  if (withMore) lines.push(writeRecord(EFW2_RECORDS.moreTotal, { people: String(withMore), ...inAllFigures(more, 'Totals') }));
  lines.push(writeRecord(EFW2_RECORDS.final, { people: String(copies.length) }));
  return `${lines.join('\r\n')}\r\n`;
}

/** A record for each state, with the local tax withheld there. */
function statesOf(copy: Copy, who: Stated, { employer }: Sender): string[] {
  const states = [...new Set(copy.boxes.flatMap(({ box }) => /^1[67] ([A-Z]{2})$/.exec(box)?.[1] ?? []))];
  return states.map((state) => {
    const local = (box: string): number =>
      copy.boxes.filter((one) => one.box.startsWith(`${box} ${state} `)).reduce((sum, { amount }) => sum + amount, 0);
    const registered = (employer['states'] as Record<string, { incomeTaxAccount?: string } | undefined> | undefined)?.[state];
    const code = STATES.find((one) => one.code === state)?.fips;
    if (!code) throw new RangeError(`the rules of the state ${state} are not in`);
    const name = `${who.givenName} ${who.familyName}`;
    return writeRecord(EFW2_RECORDS.state, {
      state: code,
      stateAgain: code,
      ...named(who),
      ...place('person', who.address),
      account: digits(registered?.incomeTaxAccount ?? ''),
      wages: inFigures(amountOf(copy, `16 ${state}`), name),
      tax: inFigures(amountOf(copy, `17 ${state}`), name),
      taxType: local('19') ? 'C' : '',
      localWages: inFigures(local('18'), name),
      localTax: inFigures(local('19'), name),
    });
  });
}

/** Employers of one number in one file: one submitter, everybody's records behind their employer's, one end. */
function joinEfw2(contents: readonly string[]): string {
  const files = contents.map((content) => content.split('\r\n').filter(Boolean));
  const establishments = files.map((lines) => {
    const employer = lines.find((line) => line.startsWith('RE')) ?? '';
    return readRecord(EFW2_RECORDS.employer, employer, 1).values['establishment'] ?? '';
  });
  if (new Set(establishments).size < files.length)
    throw new RangeError('employers of one number are told apart by their establishment numbers, and two have the same or none');
  const people = files.reduce((sum, lines) => sum + lines.filter((line) => line.startsWith('RW')).length, 0);
  const parts = files.flatMap((lines) => lines.filter((line) => !/^R[AF]/.test(line)));
  const [submitter = ''] = files[0] ?? [];
  return `${[submitter, ...parts, writeRecord(EFW2_RECORDS.final, { people: String(people) })].join('\r\n')}\r\n`;
}

export const efw2: FilingFile = {
  format: 'EFW2',
  extension: 'txt',
  wants,
  write: writeEfw2,
  named: namedBy('RW', EFW2_RECORDS.person),
  join: joinEfw2,
  corrected: efw2c,
};
