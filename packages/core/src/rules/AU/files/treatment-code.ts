import type { AuTax } from '../facts';

/** Tax details as they are stated; what is missing is as somebody begins. */
export type Details = Readonly<Record<string, unknown>>;

const text = (details: Details, key: keyof AuTax): string => (typeof details[key] === 'string' ? details[key] : '');

/** Income stream of somebody's pay, by the agency's list. */
export const incomeStream = (details: Details): string =>
  text(details, 'basis') === 'V'
    ? 'VOL'
    : text(details, 'basis') === 'L'
      ? 'LAB'
      : text(details, 'status') === 'working-holiday'
        ? 'WHM'
        : text(details, 'status') === 'seasonal'
          ? 'SWP'
          : 'SAW';

/**
 * The tax treatment in six letters (ATO, Single Touch Payroll phase 2, tax treatment codes): category and option, study loan,
 * surcharge, Medicare exemption, Medicare reduction.
 */
export function treatmentCode(details: Details): string {
  const status = text(details, 'status');
  const loan = details['studyLoan'] === true ? 'S' : 'X';
  if (text(details, 'numberQuoted') === 'no') return `N${status === 'foreign-resident' ? 'F' : 'A'}XXXX`;
  // Income streams of their own have no further options.
  if (status === 'working-holiday') return 'HRXXXX';
  if (status === 'seasonal') return 'WPXXXX';
  if (status === 'foreign-resident') return `FF${loan}XXX`;
  const seniors = { single: 'SS', 'illness-separated': 'SI', couple: 'SM' }[text(details, 'seniors')];
  const threshold = details['threshold'] !== false;
  const surcharge = /^[123]$/.test(text(details, 'surcharge')) ? text(details, 'surcharge') : 'X';
  const exemption = { 'half-exemption': 'H', 'full-exemption': 'F' }[text(details, 'medicare')] ?? 'X';
  return `${seniors ?? (threshold ? 'RT' : 'RN')}${loan}${threshold ? `${surcharge}${exemption}${reductionOf(details)}` : 'XXX'}`;
}

/** A spouse alone, or so many children; ten and more are A. */
function reductionOf(details: Details): string {
  const children = Number(details['dependants'] ?? 0);
  switch (text(details, 'medicareReduction')) {
    case 'spouse':
      return children ? (children > 9 ? 'A' : String(children)) : 'S';
    case 'children':
      return children > 9 ? 'A' : String(children);
    default:
      return 'X';
  }
}
