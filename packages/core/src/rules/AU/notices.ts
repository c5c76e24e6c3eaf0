import { isDate } from '../../calendar/dates';
import { childOf, everyOf, textAt, type XmlNode } from '../../files/xml-tree';
import type { Notice, NoticeRules } from '../notices';

/** What an answer or a notice changes, by its kind. */
function changesOf(kind: string, node: XmlNode): { kind: string; label: string; changes: Record<string, unknown> } | string {
  switch (kind) {
    case 'STAPLED': {
      const fund = childOf(node, 'Fund');
      const usi = fund ? textAt(fund, 'Identifier') : '';
      if (!/^[A-Z0-9]{9,14}$/.test(usi)) return `the identifier of the fund “${usi}” is none`;
      const memberNumber = fund ? textAt(fund, 'MemberNumber') : '';
      return {
        kind: 'stapled-fund',
        label: `stapled fund ${usi}, member ${memberNumber || 'unknown'}`,
        changes: { fundChoice: 'stapled', fund: usi, memberNumber },
      };
    }
    case 'STSL':
      return { kind: 'study-loan', label: 'study or training support loan', changes: { studyLoan: true } };
    case 'STSL-END':
      return { kind: 'study-loan', label: 'no study or training support loan any more', changes: { studyLoan: false } };
    default:
      return `the kind “${kind}” is not known`;
  }
}

function read(root: XmlNode): { notices: Notice[]; faults: string[] } {
  const notices: Notice[] = [];
  const faults: string[] = [];
  const all = everyOf(root, 'Notice');
  if (!all.length) faults.push('There is no notice in the file. Choose the file of answers and notices as the agency gives it.');
  for (const [index, node] of all.entries()) {
    const made = changesOf(textAt(node, 'Kind'), node);
    const [issued, from] = [textAt(node, 'Issued'), textAt(node, 'From')];
    const name = `${textAt(node, 'GivenName')} ${textAt(node, 'FamilyName')}`.trim();
    const say = (what: string) => faults.push(`Notice ${index + 1}${name ? `, ${name}` : ''}: ${what}.`);
    if (typeof made === 'string') say(made);
    else if (!isDate(issued) || !isDate(from)) say('its day of issue, or the day it holds from, is none');
    else
      notices.push({
        ...made,
        number: textAt(node, 'TaxFileNumber'),
        code: textAt(node, 'PayrollNumber'),
        name,
        employer: textAt(node, 'EmployerNumber'),
        issued,
        from,
      });
  }
  return { notices, faults };
}

/** Answers of the agency on stapled funds, and what it tells of study loans; and the move of all members from one fund to another. */
export const notices: NoticeRules = {
  title: 'Stapled funds and notices',
  format: "The agency's file of answers on stapled funds and of notices (XML)",
  read,
  general: {
    title: 'All members of a fund move to another',
    help: 'Where a fund is merged into another, or closes: member numbers stay, and are corrected where the new fund gives others.',
    fields: [
      { key: 'from', label: 'From the fund', kind: 'text', help: 'USI or ABN, as in the tax details', entryOf: 'funds' },
      { key: 'to', label: 'To the fund', kind: 'text', help: 'As it stands in the list of the registrations', entryOf: 'funds' },
    ],
    apply: (facts, { from = '', to = '' }) =>
      to && facts['fund'] === from && facts['fundChoice'] !== 'default' ? { ...facts, fund: to } : undefined,
    says: ({ fundChoice, fund }) => (fundChoice === 'default' || typeof fund !== 'string' || !fund ? 'default fund' : `fund ${fund}`),
  },
};
