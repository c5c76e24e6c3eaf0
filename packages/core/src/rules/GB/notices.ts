import { isDate } from '../../calendar/dates';
import { childOf, everyOf, textAt, type XmlNode } from '../../files/xml-tree';
import type { Notice, NoticeRules } from '../notices';
import { taxCodeOf } from './tax-code';

const LOANS: Readonly<Record<string, string>> = { '01': '1', '02': '2', '04': '4', '05': '5' };

/** What a notice changes, by its form (HMRC, P6, P9, SL1, SL2, PGL1, PGL2; names of elements from memory, unconfirmed). */
function changesOf(form: string, node: XmlNode): { kind: string; label: string; changes: Record<string, unknown> } | string {
  switch (form) {
    case 'P6':
    case 'P6B':
    case 'P9': {
      const update = childOf(node, 'CodingUpdate');
      const code = update ? textAt(update, 'TaxCode') : '';
      if (!taxCodeOf(code)) return `the code “${code}” cannot exist`;
      const alone = update && childOf(update, 'TaxCode')?.attributes['Week1Month1'] === 'Y';
      const [pay, tax] = [update ? textAt(update, 'PreviousPay') : '', update ? textAt(update, 'PreviousTax') : ''];
      const year = update ? textAt(update, 'TaxYear') : '';
      return {
        kind: 'tax-code',
        label: `tax code ${code}${alone ? ', week 1 / month 1' : ''}${pay ? `, earlier pay ${pay} and tax ${tax || '0.00'}` : ''}`,
        changes: {
          taxCode: code,
          basis: alone ? 'week-1-month-1' : 'cumulative',
          ...(pay && year ? { previousPay: pay, previousTax: tax || '0', previousYear: year } : {}),
        },
      };
    }
    case 'SL1': {
      const plan = LOANS[childOf(node, 'LoanStart')?.attributes['PlanType'] ?? ''];
      return plan
        ? { kind: 'student-loan', label: `student loan, plan ${plan}, starts`, changes: { studentLoan: plan } }
        : 'the plan of the loan is none';
    }
    case 'SL2':
      return { kind: 'student-loan', label: 'student loan stops', changes: { studentLoan: 'none' } };
    case 'PGL1':
      return { kind: 'postgraduate-loan', label: 'postgraduate loan starts', changes: { postgraduateLoan: true } };
    case 'PGL2':
      return { kind: 'postgraduate-loan', label: 'postgraduate loan stops', changes: { postgraduateLoan: false } };
    default:
      return `the form “${form}” is not known`;
  }
}

function read(root: XmlNode): { notices: Notice[]; faults: string[] } {
  const notices: Notice[] = [];
  const faults: string[] = [];
  const all = everyOf(root, 'Notice');
  if (!all.length) faults.push('There is no notice in the file. Choose the file of coding notices as the agency gives it.');
  for (const [index, node] of all.entries()) {
    const form = textAt(node, 'FormType');
    const made = changesOf(form, node);
    const [issued, from] = [textAt(node, 'IssueDate'), textAt(node, 'EffectiveDate')];
    const name = `${textAt(node, 'Name', 'Fore')} ${textAt(node, 'Name', 'Sur')}`.trim();
    const say = (what: string) => faults.push(`Notice ${index + 1}${name ? `, ${name}` : ''}: ${what}.`);
    if (typeof made === 'string') say(made);
    else if (!isDate(issued) || !isDate(from)) say('its day of issue, or the day it holds from, is none');
    else
      notices.push({
        ...made,
        number: textAt(node, 'NINO'),
        code: textAt(node, 'WorksNumber'),
        name,
        employer: textAt(node, 'EmployerRef'),
        issued,
        from,
      });
  }
  return { notices, faults };
}

/** Letters of codes that a general change adds to. */
const ADDED = ['L', 'M', 'N'] as const;

/** Notices of codes and loans, and the general change of codes on 6 April (HMRC, P9X). */
export const notices: NoticeRules = {
  title: 'Notices of the tax agency',
  format: 'XML of coding and loan notices (P6, P9, SL1, SL2, PGL1, PGL2)',
  read,
  general: {
    title: 'Codes of the new tax year',
    help: 'As form P9X says it: what is added to each letter; marks of week 1 / month 1 are gone on 6 April. Codes that a notice gave for the year stay.',
    fields: [
      ...ADDED.map((letter) => ({ key: letter, label: `Added to codes with ${letter}`, kind: 'count' as const })),
      {
        key: 'marks',
        label: 'Week 1 / month 1',
        kind: 'choice',
        choices: [
          { value: 'drop', label: 'Marks are gone' },
          { value: 'keep', label: 'Marks stay' },
        ],
      },
    ],
    apply(facts, entered) {
      const code = typeof facts['taxCode'] === 'string' ? facts['taxCode'] : '';
      const found = /^([SC]?)(\d+)([LMN])$/.exec(code);
      const added = Number(entered[found?.[3] ?? ''] ?? '0') || 0;
      const raised = found && found[2] !== '0' && added ? `${found[1]}${Number(found[2]) + added}${found[3]}` : code;
      const basis = entered['marks'] === 'keep' ? facts['basis'] : 'cumulative';
      return raised === code && basis === facts['basis'] ? undefined : { ...facts, taxCode: raised, basis };
    },
    says: (facts) => `${String(facts['taxCode'])}${facts['basis'] === 'week-1-month-1' ? ', week 1 / month 1' : ''}`,
  },
};
