import { packOf, periodsDue } from '@woodruff/core';
import {
  agreeFiling,
  answerFiling,
  filingEvents,
  filingOutside,
  prepareFiling,
  sendByFile,
  sendFiling,
  type Scope,
} from '@woodruff/server';
import employerFile from './quillmere/employer.json';
import yearFile from './quillmere/year.json';

/** Of these the year says itself when and how they are filed. */
const PLAYED = new Set(yearFile.filings.map(({ filing }) => filing));

/** Prepared by the clerk, agreed to and sent by the approver, answered by the agency. */
export async function fileByFile(
  clerk: Scope,
  approver: Scope,
  { name, title }: { name: string; title: string },
  filing: string,
  period: string,
  reason: string,
): Promise<void> {
  await prepareFiling(clerk, filing, period, { reason });
  await agreeFiling(approver, filing, period, { signer: name, title });
  await sendByFile(approver, filing, period, { pays: false, consent: '' }, filingOutside);
}

/** Prepared, agreed to and entered at the agency's own site, which answers at once. */
export async function fileAtSite(
  clerk: Scope,
  approver: Scope,
  { name, title }: { name: string; title: string },
  filing: string,
  period: string,
  reference: string,
): Promise<void> {
  await prepareFiling(clerk, filing, period, { reason: '' });
  await agreeFiling(approver, filing, period, { signer: name, title });
  await sendFiling(approver, filing, period, { how: 'portal', reference });
  await answerFiling(clerk, filing, period, { answer: 'accepted', reference, reasons: '' });
}

/** Files by file what is due before the next day on which anything happens: agreed to by the approver, answered by the agency. */
export async function fileWhatIsDue(clerk: Scope, approver: Scope, until: string): Promise<void> {
  const { today, country, facts } = clerk.employer;
  const begun = new Set((await filingEvents(clerk)).map(({ filing, period }) => `${filing} ${period}`));
  for (const filing of packOf(country).filings(facts.country)) {
    if (PLAYED.has(filing.code)) continue;
    for (const { key, to } of periodsDue(filing, yearFile.begins, until)) {
      if (to < yearFile.begins || to >= today || begun.has(`${filing.code} ${key}`)) continue;
      await fileByFile(clerk, approver, employerFile.facts.signatory, filing.code, key, '');
    }
  }
}
