import { fundOf } from './funds';

const text = (value: unknown): string => (typeof value === 'string' ? value : '');

/** The employer's business number, and the fund that super goes to (Fair Work Regulations 2009, regulation 3.46). */
export function onPayslip(employer: Readonly<Record<string, unknown>>, tax: Readonly<Record<string, unknown>>): string[] {
  const abn = text(employer['abn']).replace(/^(\d\d)(\d{3})(\d{3})(\d{3})$/, '$1 $2 $3 $4');
  const { fund, code } = fundOf(tax, employer);
  const member = text(tax['memberNumber']);
  return [...(abn ? [`ABN ${abn}`] : []), ...(fund ? [`Super to ${fund.name} (${code})${member ? `, member ${member}` : ''}`] : [])];
}
