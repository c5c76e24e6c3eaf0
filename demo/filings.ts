import { packOf, periodsDue } from '@woodruff/core';
import { agreeFiling, filingEvents, filingOutside, prepareFiling, sendByFile, type Scope } from '@woodruff/server';
import employerFile from './quillmere/employer.json';
import yearFile from './quillmere/year.json';

/** Of these the year says itself when and how they are filed. */
const PLAYED = new Set(yearFile.filings.map(({ filing }) => filing));

/** Files by file what is due before the next day on which anything happens: agreed to by the approver, answered by the agency. */
export async function fileWhatIsDue(clerk: Scope, approver: Scope, until: string): Promise<void> {
  const { today, country, facts } = clerk.employer;
  const { name, title } = employerFile.facts.signatory;
  const begun = new Set((await filingEvents(clerk)).map(({ filing, period }) => `${filing} ${period}`));
  for (const filing of packOf(country).filings(facts.country)) {
    if (PLAYED.has(filing.code)) continue;
    for (const { key, to } of periodsDue(filing, yearFile.begins, until)) {
      if (to < yearFile.begins || to >= today || begun.has(`${filing.code} ${key}`)) continue;
      await prepareFiling(clerk, filing.code, key, { reason: '' });
      await agreeFiling(approver, filing.code, key, { signer: name, title });
      await sendByFile(approver, filing.code, key, { pays: false, consent: '' }, filingOutside);
    }
  }
}
