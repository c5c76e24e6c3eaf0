import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { NOTHING, type Fault, type Read } from '../read';
import { isAbn, isSpecial, isTfn } from './numbers';

const COLLECTIONS = [
  'Payee',
  'Remuneration',
  'PaidLeave',
  'Allowance',
  'SalarySacrifice',
  'LumpSum',
  'EmploymentTerminationPayment',
  'Deduction',
  'SuperannuationContribution',
];
const parser = new XMLParser({ ignoreAttributes: true, parseTagValue: false, isArray: (name) => COLLECTIONS.includes(name) });
type Node = Record<string, unknown>;

const at = (node: unknown, ...path: string[]): unknown => path.reduce<unknown>((here, key) => (here as Node | undefined)?.[key], node);
const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
const list = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);

/** Codes that the schema's lists have. */
const LISTS: readonly (readonly [collection: string, entry: string, code: string, values: RegExp, amount: string])[] = [
  ['PaidLeaveCollection', 'PaidLeave', 'TypeC', /^[CUPWAO]$/, 'PaymentA'],
  ['AllowanceCollection', 'Allowance', 'TypeC', /^(CD|AD|LD|MD|RD|TD|KN|QN|OD)$/, 'EmploymentAllowancesA'],
  ['SalarySacrificeCollection', 'SalarySacrifice', 'TypeC', /^[SO]$/, 'PaymentA'],
  ['LumpSumCollection', 'LumpSum', 'TypeC', /^[RTBDEW]$/, 'PaymentsA'],
  [
    'EmploymentTerminationPaymentCollection',
    'EmploymentTerminationPayment',
    'IncomeTaxPayAsYouGoWithholdingTypeC',
    /^[ROSPDNBT]$/,
    'SuperannuationTaxableComponentA',
  ],
];
const TREATMENT = /^(R[TND]|A[CP]|C[PS]|S[SMI]|H[RUF]|WP|F[FC]|N[AF]|D[BVZ]|V[CO])[SX][123X][FHX][S0-9AX]$/;

/** Reads a pay event or an update of it: whose, for which day, and of everybody the year to date, by the published rules. */
export function readPayEvent(content: string): Read {
  const valid = XMLValidator.validate(content);
  if (valid !== true) return { ...NOTHING, faults: [{ code: 'XML', text: `line ${valid.err.line}: ${valid.err.msg}` }] };
  const event = at(parser.parse(content), 'PAYEVNT');
  const payroll = at(event, 'Payroll');
  const faults: Fault[] = [];
  const fault = (code: string, sentence: string, person?: string): void =>
    void faults.push({ code, text: sentence, ...(person ? { person } : {}) });
  const [to, action, id] = [
    text(at(payroll, 'PaymentRecordTransactionD')),
    text(at(payroll, 'ActionC')),
    text(at(payroll, 'InteractionTransactionId')),
  ];
  if (!/^\d{4}-\d\d-\d\d$/.test(to)) fault('PAY-DAY', 'the pay day is none');
  const year = Number(to.slice(0, 4)) + (to.slice(5) >= '07-01' ? 1 : 0);
  if (text(at(payroll, 'ReportingFinancialY')) !== String(year)) fault('YEAR', 'the financial year is not that of the pay day');
  if (!/^\d{3}$/.test(text(at(event, 'Rp', 'OrganisationDetailsOrganisationBranchC')))) fault('BRANCH', 'the branch is not three figures');
  const people = list(at(event, 'Payee'));
  if (!people.length) fault('NOBODY', 'nobody stands in it');
  if (text(at(payroll, 'InteractionRecordCt')) !== String(people.length))
    fault('COUNT', `${people.length} people were read, another number is stated`);
  const final = id.startsWith('final');
  if (final && action !== 'update') fault('ACTION', 'a finalisation is an update');
  if (action !== 'submit' && action !== 'update') fault('ACTION', 'it is neither a pay event nor an update of one');
  if (text(at(payroll, 'FullFileReplacementI')) === 'true' && (action !== 'submit' || text(at(payroll, 'AmendmentI')) !== 'true'))
    fault('REPLACEMENT', 'a full file replacement is a pay event that was sent before, as a whole');
  if (text(at(event, 'Declaration', 'StatementAcceptedI')) !== 'true') fault('DECLARATION', 'the declaration is not made');
  const seen = new Set<string>();
  for (const one of people) checkPayee(one, { to, seen, final, fault });
  return {
    form: final ? 'finalisation' : 'pay-event',
    from: to,
    to,
    taxpayer: text(at(event, 'Rp', 'AustralianBusinessNumberId')),
    name: text(at(event, 'Rp', 'OrganisationNameDetailsOrganisationalNameT')),
    signed: text(at(event, 'Declaration', 'SignatoryIdentifierT')) !== '',
    // A whole event takes the place of what was sent for the pay day before.
    corrects: text(at(payroll, 'AmendmentI')) === 'true',
    ahead: !final,
    faults,
  };
}

interface Of {
  to: string;
  seen: Set<string>;
  final: boolean;
  fault: (code: string, sentence: string, person?: string) => void;
}

function checkPayee(one: unknown, { to, seen, final, fault }: Of): void {
  const name = `${text(at(one, 'PersonNameDetails', 'GivenNameT'))} ${text(at(one, 'PersonNameDetails', 'FamilyNameT'))}`.trim();
  const [number, id] = [text(at(one, 'Identifiers', 'TaxFileNumberId')), text(at(one, 'Identifiers', 'EmploymentPayrollNumberId'))];
  const say = (code: string, sentence: string): void => fault(code, sentence, name);
  if (!text(at(one, 'PersonNameDetails', 'FamilyNameT'))) say('NAME', 'somebody has no family name');
  if (!isTfn(number)) say('TFN', `the tax file number of ${name} cannot exist`);
  else if (final && isSpecial(number) && number === '111111111') say('TFN', `${name} still has the number of who has applied for one`);
  if (!id) say('PAYROLL-ID', `${name} has no payroll number`);
  if (seen.has(id)) say('TWICE', `the payroll number of ${name} stands in it twice`);
  seen.add(id);
  if (!text(at(one, 'PersonDemographicDetails', 'BirthY'))) say('BIRTH', `${name} has no date of birth`);
  const [line, suburb, postcode] = ['Line1T', 'LocalityNameT', 'PostcodeT'].map((key) => text(at(one, 'AddressDetails', key)));
  if (!line || !suburb || !/^\d{4}$/.test(postcode ?? '')) say('ADDRESS', `${name} has no full address`);
  const conditions = at(one, 'EmployerConditions');
  if (!TREATMENT.test(text(at(conditions, 'TaxTreatmentC')))) say('TREATMENT', `the tax treatment of ${name} is none`);
  if (!/^[FPCLVDN]$/.test(text(at(conditions, 'PaymentBasisC')))) say('BASIS', `how ${name} is employed is not known`);
  const [start, end] = [text(at(conditions, 'EmploymentStartD')), text(at(conditions, 'EmploymentEndD'))];
  if (!start) say('START', `${name} has no day of commencement`);
  if (end && end < start) say('END', `${name} left before the day of commencement`);
  if (end && !/^[VIDRFCT]$/.test(text(at(conditions, 'CessationTypeC')))) say('CESSATION', `why ${name} left is not stated`);
  // Who has left can be final during the year.
  const isFinal = text(at(one, 'RemunerationPayrollPeriod', 'RemunerationPayrollEventFinalI')) === 'true';
  if (final ? !isFinal : isFinal && !end) say('FINAL', `whether ${name} is final does not fit the event`);
  const cents = (where: unknown, element: string): number => {
    const written = text(at(where, element));
    if (!/^-?\d{1,11}\.\d{2}$/.test(written)) say('AMOUNT', `${element} of ${name} is no amount`);
    else if (written.startsWith('-')) say('TO-DATE', `${element} of ${name} is less than nothing in the year to date`);
    return Math.round(Number(written) * 100);
  };
  for (const stream of list(at(one, 'RemunerationCollection', 'Remuneration'))) {
    const kind = text(at(stream, 'IncomeStreamTypeC'));
    if (!/^(SAW|CHP|IAA|WHM|SWP|FEI|JPD|VOL|LAB|OSP)$/.test(kind)) say('STREAM', `the income stream of ${name} is none`);
    if (kind === 'WHM' && !/^[a-z]{2}$/.test(text(at(stream, 'AddressDetailsCountryC'))))
      say('COUNTRY', `the home country of ${name} is not stated`);
    let paid = cents(stream, 'GrossA');
    for (const element of ['OvertimePaymentA', 'BonusesAndCommissionsA', 'DirectorsFeesA'])
      if (at(stream, element) !== undefined) paid += cents(stream, element);
    for (const [collection, entry, code, values, amount] of LISTS)
      for (const item of list(at(stream, collection, entry))) {
        if (!values.test(text(at(item, code)))) say('CODE', `${text(at(item, code))} of ${name} is no code of ${entry}`);
        paid += cents(item, amount);
      }
    if (cents(stream, 'IncomeTaxPayAsYouGoWithholdingTaxWithheldA') > paid) say('WITHHELD', `more is withheld from ${name} than was paid`);
  }
  for (const contribution of list(at(one, 'SuperannuationContributionCollection', 'SuperannuationContribution')))
    cents(contribution, 'EmployerContributionsYearToDateA');
  for (const deduction of list(at(one, 'DeductionCollection', 'Deduction')))
    if (!/^[FWGD]$/.test(text(at(deduction, 'RemunerationTypeC')))) say('CODE', `a deduction of ${name} has no code of the list`);
    else cents(deduction, 'RemunerationA');
  if (text(at(one, 'RemunerationPayrollPeriod', 'EndD')) !== to) say('PERIOD', `the period of ${name} ends on another day`);
}

/** An employer is known by its business number. */
export const numberFault = (taxpayer: string): Fault | null =>
  isAbn(taxpayer) ? null : { code: 'ABN', text: 'the business number cannot exist' };
