import type { Read } from '../read';
import { at, readEnvelope, text } from './xml';

const AMOUNT = /^\d{1,9}\.\d{2}$/;

/** Reads an employer payment summary: nobody paid, what is recovered, the levy, and whether it is the last of the year. */
export function readSummary(content: string): Read {
  const read = readEnvelope(content, 'EmployerPaymentSummary', 'eps', (body, to, fault) => {
    const recovered = (at(body, 'RecoverableAmountsYTD') ?? {}) as Record<string, unknown>;
    for (const [element, value] of Object.entries(recovered))
      if (element !== 'TaxMonth' && !AMOUNT.test(text(value))) fault('AMOUNT', `${element} is no amount`);
    for (const of of ['SMP', 'SPP', 'SAP', 'ShPP', 'SPBP', 'SNCP']) {
      const compensation = Number(text(recovered[`NICCompensationOn${of}`]) || 0);
      // Compensation is so much of what was paid, never more than it.
      if (compensation > Number(text(recovered[`${of}Recovered`]) || 0))
        fault('COMPENSATION', `compensation on ${of} is more than what is recovered of it`);
    }
    const levy = at(body, 'ApprenticeshipLevy');
    if (levy && !(AMOUNT.test(text(at(levy, 'LevyDueYTD'))) && AMOUNT.test(text(at(levy, 'AnnualAllce')))))
      fault('LEVY', 'the levy or its allowance is no amount');
    const nobody = text(at(body, 'NoPaymentForPeriod')) === 'yes';
    if (nobody && text(at(body, 'NoPaymentDates', 'To')) !== to)
      fault('NO-PAYMENT', 'the dates without payment are not those of the period');
    const month = text(at(recovered, 'TaxMonth')) || text(at(levy, 'TaxMonth'));
    if (month && Number(month) !== ((Number(to.slice(5, 7)) + 8) % 12 || 12))
      fault('MONTH', `tax month ${month} does not end on the day that it is for`);
    const said = nobody || Object.keys(recovered).length || levy || text(at(body, 'EmpAllceInd')) || at(body, 'FinalSubmission');
    if (!said) fault('EMPTY', 'it says nothing');
    return { from: firstDay(to) };
  });
  return read;
}

/** The 6th of the month before the 5th on which a tax month ends. */
function firstDay(to: string): string {
  const [year = 0, month = 0] = to.split('-').map(Number);
  return month === 1 ? `${year - 1}-12-06` : `${year}-${String(month - 1).padStart(2, '0')}-06`;
}
