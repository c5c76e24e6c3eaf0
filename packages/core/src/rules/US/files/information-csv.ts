import { decimalOf } from '../../../money/amounts';
import type { FilingFile } from '../../../filings/filing';
import { cell } from './state-csv';

/**
 * Information returns as CSV, a row for each payee, in the order in which the agency's own intake system asks: form, year,
 * payer, recipient, account, boxes. Its column titles were not compared with a print of its template and are unconfirmed.
 *
 * @param boxes the form's boxes by number, in the order of the form
 */
export const informationFile = (form: string, boxes: Readonly<Record<string, string>>): FilingFile => ({
  format: 'CSV',
  extension: 'csv',
  wants: ({ contact, address, number }) => [
    ...(number ? [] : [{ sentence: "The payer's federal number", part: 'registrations' as const }]),
    ...(contact.phone ? [] : [{ sentence: 'The telephone number of whom the agency can ask', part: 'legal' as const }]),
    ...(address.line1 && address.city && address.postcode ? [] : [{ sentence: "The payer's full address", part: 'legal' as const }]),
  ],
  write({ period, copies, corrected }, sender) {
    const named = Object.entries(boxes).sort(([a], [b]) => Number(a) - Number(b));
    const wanted = corrected ? new Set(corrected.map(({ personId }) => personId)) : null;
    const states = Object.keys((sender.employer['states'] as object | undefined) ?? {});
    const rows = copies
      .filter(({ personId }) => !wanted || wanted.has(personId))
      .map(({ personId, boxes: held }, index) => {
        const who = sender.people.get(personId);
        if (!who) throw new RangeError('somebody of the statements is not on file');
        return [
          form,
          period.taxYear,
          corrected ? 'C' : '',
          'EIN',
          sender.number.replace(/\D/g, ''),
          sender.name,
          sender.address.line1,
          sender.address.line2,
          sender.address.city,
          sender.address.state,
          sender.address.postcode,
          sender.contact.phone.replace(/\D/g, ''),
          who.number ? 'SSN' : '',
          who.number.replace(/\D/g, ''),
          who.givenName,
          who.familyName,
          who.address.line1,
          who.address.line2,
          who.address.city,
          who.address.state,
          who.address.postcode,
          String(index + 1),
          // The combined federal and state programme: the agency hands it on to the payee's state (Publication 1220).
          states.includes(who.address.state) ? who.address.state : '',
          ...named.map(([box]) => decimalOf(held.find((one) => one.box === box)?.amount ?? 0)),
        ];
      });
    const head = [
      'Form Type',
      'Tax Year',
      'Corrected',
      'Payer TIN Type',
      'Payer Taxpayer ID Number',
      'Payer Name',
      'Payer Address Line 1',
      'Payer Address Line 2',
      'Payer City',
      'Payer State',
      'Payer ZIP',
      'Payer Phone',
      'Recipient TIN Type',
      'Recipient Taxpayer ID Number',
      'Recipient First Name',
      'Recipient Last Name',
      'Recipient Address Line 1',
      'Recipient Address Line 2',
      'Recipient City',
      'Recipient State',
      'Recipient ZIP',
      'Form Account Number',
      'Combined Federal/State Filing',
      ...named.map(([box, label]) => `Box ${box} - ${label}`),
    ];
    return [head, ...rows].map((cells) => `${cells.map(cell).join(',')}\r\n`).join('');
  },
});
