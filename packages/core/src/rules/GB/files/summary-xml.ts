import type { Element } from '../../../files/xml';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';
import { decimalOf } from '../../../money/amounts';
import { ALLOWANCE, compensationCode, LEVY, recoveredCode } from '../employer-reckonings';
import { CONSTRUCTION, FINAL, NO_PAYMENT } from '../forms/stated';
import { tables } from '../tables';
import { envelope } from './envelope';
import { submissionWants } from './submission-xml';

/** Amounts recovered in the year, in the order of the agency's schema (from memory, unconfirmed). */
const RECOVERED: readonly (readonly [element: string, line: string])[] = [
  ['SMPRecovered', recoveredCode('gb.smp')],
  ['SPPRecovered', recoveredCode('gb.spp')],
  ['SAPRecovered', recoveredCode('gb.sap')],
  ['ShPPRecovered', recoveredCode('gb.shpp')],
  ['SPBPRecovered', recoveredCode('gb.spbp')],
  ['SNCPRecovered', recoveredCode('gb.sncp')],
  ['NICCompensationOnSMP', compensationCode('gb.smp')],
  ['NICCompensationOnSPP', compensationCode('gb.spp')],
  ['NICCompensationOnSAP', compensationCode('gb.sap')],
  ['NICCompensationOnShPP', compensationCode('gb.shpp')],
  ['NICCompensationOnSPBP', compensationCode('gb.spbp')],
  ['NICCompensationOnSNCP', compensationCode('gb.sncp')],
  ['CISDeductionsSuffered', CONSTRUCTION],
];

function write({ period, lines }: FilingContent, sender: Sender): string {
  const { employer } = sender;
  const of = new Map(lines.map(({ line, amount }) => [line, amount]));
  const amount = (line: string): string => decimalOf(of.get(line) ?? 0);
  const month = String(Number(period.key.slice(-2)));
  const ceased = textOf(employer, 'schemeCeased');
  const recovered = RECOVERED.filter(([, line]) => of.get(line)).map(([element, line]): Element => [element, amount(line)]);
  return envelope('EmployerPaymentSummary', period, sender, [
    of.get(NO_PAYMENT) ? ['NoPaymentForPeriod', 'yes'] : null,
    of.get(NO_PAYMENT)
      ? [
          'NoPaymentDates',
          [
            ['From', period.from],
            ['To', period.to],
          ],
        ]
      : null,
    employer['employmentAllowance'] === true || of.get(ALLOWANCE) ? ['EmpAllceInd', 'yes'] : null,
    recovered.length ? ['RecoverableAmountsYTD', [['TaxMonth', month], ...recovered]] : null,
    of.get(LEVY)
      ? [
          'ApprenticeshipLevy',
          [
            ['LevyDueYTD', amount(LEVY)],
            ['TaxMonth', month],
            ['AnnualAllce', textOf(employer, 'levyAllowance') || tables.value('gb.levy.allowance', period.to).value.toDecimal(2)],
          ],
        ]
      : null,
    ['RelatedTaxYear', period.taxYear.slice(2)],
    of.get(FINAL)
      ? [
          'FinalSubmission',
          ceased
            ? [
                ['BecauseSchemeCeased', 'yes'],
                ['DateSchemeCeased', ceased],
              ]
            : [['ForYear', 'yes']],
        ]
      : null,
  ]);
}

/** The file of an employer payment summary. */
export const summaryFile: FilingFile = {
  format: 'XML of real time information',
  extension: 'xml',
  wants: submissionWants,
  write,
};
