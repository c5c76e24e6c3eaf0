import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { NOTHING, type Fault, type Read } from '../read';

const parser = new XMLParser({
  ignoreAttributes: false,
  parseTagValue: false,
  isArray: (name) => /^TaxLiabilityMonth\d+Amt$|^CreditReductionAmt$/.test(name),
});
type Node = Record<string, unknown>;
const at = (node: unknown, ...path: string[]): unknown => path.reduce<unknown>((here, key) => (here as Node | undefined)?.[key], node);
const text = (value: unknown): string =>
  typeof value === 'string' ? value.trim() : Array.isArray(value) ? text(value[0]) : text((value as Node | undefined)?.['#text'] ?? '');

/** What must come to what: the element, what it is made of, and the line of the form that is told. */
interface Sum {
  element: string;
  line: string;
  of: (amount: (element: string) => number) => number;
}
const rate =
  (percent: number) =>
  (amount: number): number =>
    Math.round((amount * percent) / 100);
const max = (amount: number): number => Math.max(0, amount);

const TAXED = (letter: string): Sum[] => [
  { element: 'SocialSecurityTaxAmt', line: `${letter}a (2)`, of: (of) => rate(12.4)(of('SocialSecurityTaxCashWagesAmt')) },
  { element: 'TaxOnSocialSecurityTipsAmt', line: `${letter}b (2)`, of: (of) => rate(12.4)(of('TaxableSocSecTipsAmt')) },
  { element: 'TaxOnMedicareWagesTipsAmt', line: `${letter}c (2)`, of: (of) => rate(2.9)(of('TaxableMedicareWagesTipsAmt')) },
  { element: 'TaxOnWageTipsSubjAddnlMedcrAmt', line: `${letter}d (2)`, of: (of) => rate(0.9)(of('TxblWageTipsSubjAddnlMedcrAmt')) },
  {
    element: 'TotSSMdcrTaxAmt',
    line: `${letter}e`,
    of: (of) =>
      of('SocialSecurityTaxAmt') +
      of('TaxOnSocialSecurityTipsAmt') +
      of('TaxOnMedicareWagesTipsAmt') +
      of('TaxOnWageTipsSubjAddnlMedcrAmt'),
  },
];

const SUMS: Record<string, Sum[]> = {
  '941': [
    ...TAXED('5'),
    { element: 'TotalTaxBeforeAdjustmentAmt', line: '6', of: (of) => of('FederalIncomeTaxWithheldAmt') + of('TotSSMdcrTaxAmt') },
    {
      element: 'TotalTaxAfterAdjustmentAmt',
      line: '10',
      of: (of) =>
        of('TotalTaxBeforeAdjustmentAmt') +
        of('CurrentQtrFractionsCentsAmt') +
        of('CurrentQuarterSickPaymentAmt') +
        of('CurrQtrTipGrpTermLifeInsAdjAmt'),
    },
    { element: 'TotalTaxAmt', line: '12', of: (of) => of('TotalTaxAfterAdjustmentAmt') - of('PayrollTaxCreditAmt') },
    { element: 'BalanceDueAmt', line: '14', of: (of) => max(of('TotalTaxAmt') - of('TotalTaxDepositAmt')) },
    { element: 'OverpaidAmt', line: '15', of: (of) => max(of('TotalTaxDepositAmt') - of('TotalTaxAmt')) },
  ],
  '944': [
    ...TAXED('4'),
    { element: 'TotalTaxBeforeAdjustmentAmt', line: '5', of: (of) => of('FederalIncomeTaxWithheldAmt') + of('TotSSMdcrTaxAmt') },
    { element: 'TotalTaxAfterAdjustmentAmt', line: '7', of: (of) => of('TotalTaxBeforeAdjustmentAmt') + of('CurrentYearAdjustmentAmt') },
    { element: 'BalanceDueAmt', line: '11', of: (of) => max(of('TotalTaxAmt') - of('TotalTaxDepositAmt')) },
    { element: 'OverpaidAmt', line: '12', of: (of) => max(of('TotalTaxDepositAmt') - of('TotalTaxAmt')) },
  ],
  '945': [
    { element: 'TotalTaxAmt', line: '3', of: (of) => of('BackupWithholdingAmt') },
    { element: 'BalanceDueAmt', line: '5', of: (of) => max(of('TotalTaxAmt') - of('TotalTaxDepositAmt')) },
    { element: 'OverpaidAmt', line: '6', of: (of) => max(of('TotalTaxDepositAmt') - of('TotalTaxAmt')) },
  ],
  '940': [
    { element: 'TotalExemptWagesAmt', line: '6', of: (of) => of('ExemptWagesAmt') + of('WagesOverLimitAmt') },
    { element: 'TotalTaxableWagesAmt', line: '7', of: (of) => of('TotalWagesAmt') - of('TotalExemptWagesAmt') },
    { element: 'FUTATaxBeforeAdjustmentsAmt', line: '8', of: (of) => rate(0.6)(of('TotalTaxableWagesAmt')) },
    {
      element: 'TotalTaxAmt',
      line: '12',
      of: (of) => of('FUTATaxBeforeAdjustmentsAmt') + of('FUTAAdjustmentAmt') + of('TotalCreditReductionAmt'),
    },
    { element: 'BalanceDueAmt', line: '14', of: (of) => max(of('TotalTaxAmt') - of('TotalTaxDepositedAmt')) },
    { element: 'OverpaidAmt', line: '15', of: (of) => max(of('TotalTaxDepositedAmt') - of('TotalTaxAmt')) },
  ],
};

/** Reads a federal employment tax return: its form, its arithmetic, the liability of its schedules. */
export function readReturn(content: string): Read {
  const valid = XMLValidator.validate(content);
  if (valid !== true) return { ...NOTHING, faults: [{ code: 'XML', text: `line ${valid.err.line}: ${valid.err.msg}` }] };
  const root = at(parser.parse(content), 'Return');
  const header = at(root, 'ReturnHeader');
  const type = text(at(header, 'ReturnTypeCd'));
  const form = type.replace(/X$/, '');
  const faults: Fault[] = [];
  const fault = (code: string, sentence: string, line?: string): void =>
    void faults.push({ code, text: sentence, ...(line ? { line } : {}) });
  const body = at(root, 'ReturnData', `IRS${form}`) as Node | undefined;
  const sums = SUMS[form];
  if (!sums || !body) fault('FORM', `there is no return of the form ${type || 'that is named'} in the file`);
  const amounts = new Map<string, number>();
  for (const [element, value] of Object.entries(body ?? {})) {
    const written = text(value);
    if (!/^-?\d{1,13}(\.\d{2})?$/.test(written)) fault('AMOUNT', `${element} holds no amount`);
    else amounts.set(element, Math.round(Number(written) * 100));
  }
  const amount = (element: string): number => amounts.get(element) ?? 0;
  for (const { element, line, of } of sums ?? [])
    if (amount(element) !== of(amount))
      fault('ARITHMETIC', `${element} is ${(amount(element) / 100).toFixed(2)}, and comes to ${(of(amount) / 100).toFixed(2)}`, line);
  checkLiability(form, root, body, amount, fault);
  checkCorrections(at(root, 'ReturnData', 'CorrectionDetail'), type.endsWith('X'), amount, fault);
  const pin = text(at(header, 'BusinessOfficerGrp', 'TaxpayerPIN'));
  const [from, to] = [text(at(header, 'TaxPeriodBeginDt')), text(at(header, 'TaxPeriodEndDt'))];
  return {
    form,
    from,
    to,
    taxpayer: text(at(header, 'Filer', 'EIN')),
    name: text(at(header, 'Filer', 'BusinessName', 'BusinessNameLine1Txt')),
    signed: /^\d{5}$/.test(pin) && text(at(header, 'BusinessOfficerGrp', 'PersonNm')) !== '',
    corrects: type.endsWith('X'),
    faults,
  };
}

/** An adjusted return says of each line what was filed and what is right now; that is what the return itself says. */
function checkCorrections(
  detail: unknown,
  corrects: boolean,
  amount: (element: string) => number,
  fault: (code: string, sentence: string) => void,
): void {
  if (!corrects) return detail === undefined ? undefined : fault('CORRECTION', 'an original return corrects nothing');
  if (text(at(detail, 'ExplanationTxt')) === '') fault('EXPLANATION', 'it is not explained why the return is corrected');
  const groups = at(detail, 'CorrectionGrp');
  for (const group of Array.isArray(groups) ? (groups as unknown[]) : groups ? [groups] : []) {
    const [element, now, before, difference] = ['ElementNm', 'CorrectedAmt', 'PreviouslyReportedAmt', 'DifferenceAmt'].map((key) =>
      text(at(group, key)),
    );
    const cents = (value = ''): number => Math.round(Number(value) * 100);
    if (cents(now) - cents(before) !== cents(difference) || cents(difference) === 0)
      fault('CORRECTION', `the columns of ${element ?? 'a line'} do not come to the difference`);
    if (cents(now) !== amount(element ?? '')) fault('CORRECTION', `${element ?? 'a line'} is not what the corrected return says`);
  }
}

function checkLiability(
  form: string,
  root: unknown,
  body: Node | undefined,
  amount: (element: string) => number,
  fault: (code: string, sentence: string, line?: string) => void,
): void {
  const cents = (value: unknown): number => Math.round(Number(text(value)) * 100);
  const daily = at(root, 'ReturnData', 'IRS941ScheduleB') as Node | undefined;
  const of = (node: Node | undefined): number =>
    Object.entries(node ?? {})
      .filter(([element]) => element.startsWith('TaxLiability'))
      .flatMap(([, values]) => (Array.isArray(values) ? (values as unknown[]) : [values]))
      .reduce<number>((sum, value) => sum + cents(value), 0);
  const total = amount('TotalTaxAmt');
  if (daily && of(daily) !== total) fault('SCHEDULE', 'Schedule B does not come to the total tax', '12');
  const monthly = of(body);
  if (monthly && monthly !== total)
    fault('LIABILITY', 'the liability by month does not come to the total tax', form === '941' ? '12' : '9');
  const quarters = ['1', '2', '3', '4'].reduce((sum, quarter) => sum + amount(`Quarter${quarter}LiabilityAmt`), 0);
  if (form === '940' && quarters && quarters !== total) fault('LIABILITY', 'the liability by quarter does not come to the total tax', '12');
  const reduced = at(root, 'ReturnData', 'IRS940ScheduleA', 'CreditReductionAmt');
  if (
    Array.isArray(reduced) &&
    (reduced as unknown[]).reduce<number>((sum, value) => sum + cents(value), 0) !== amount('TotalCreditReductionAmt')
  )
    fault('SCHEDULE', 'Schedule A does not come to the credit reduction', '11');
}
