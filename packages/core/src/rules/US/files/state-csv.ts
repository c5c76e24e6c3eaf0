import { decimalOf } from '../../../money/amounts';
import type { FilingFile } from '../../../filings/filing';

export const cell = (value: string): string => (/[",\n]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value);
const row = (...cells: readonly string[]): string => `${cells.map(cell).join(',')}\n`;

/** The account by which the agency of a report knows the employer; empty where it is missing. */
export type AccountOf = (employer: Readonly<Record<string, unknown>>) => string;

export const accountWanted =
  (form: string, accountOf: AccountOf): FilingFile['wants'] =>
  ({ employer, contact }) => [
    ...(accountOf(employer)
      ? []
      : [{ sentence: `The account by which the agency of ${form} knows the employer`, part: 'registrations' as const }]),
    ...(contact.phone ? [] : [{ sentence: 'The telephone number of whom the agency can ask', part: 'legal' as const }]),
  ];

/** A state's report as CSV of our own: who, which period, the lines, and the people of its detail. */
export const stateFile = (form: string, accountOf: AccountOf): FilingFile => ({
  format: 'CSV',
  extension: 'csv',
  wants: accountWanted(form, accountOf),
  write({ period, lines, detail }, { name, number, employer, signer, amends, people }) {
    return [
      row('form', form),
      row('employer', name),
      row('number', number),
      row('account', accountOf(employer)),
      row('period', period.from, period.to),
      row('kind', amends ? 'amended' : 'original'),
      row('signed', signer?.name ?? '', signer?.on ?? ''),
      ...lines.map(({ line, amount, unit }) => row('line', line, unit === 'money' ? decimalOf(amount) : String(amount))),
      ...(detail
        ? [
            row('columns', ...detail.columns.map(({ key }) => key)),
            ...detail.rows.map(({ personId, values }) => {
              const who = people.get(personId);
              return row(
                'person',
                who?.number ?? '',
                who?.familyName ?? '',
                who?.givenName ?? '',
                ...values.map((value, index) => (detail.columns[index]?.unit === 'money' ? decimalOf(value) : String(value))),
              );
            }),
          ]
        : []),
    ].join('');
  },
});
