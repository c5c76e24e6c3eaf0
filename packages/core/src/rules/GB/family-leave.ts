import { addDays, daysBetween, weekday, writtenDate, type IsoDate } from '../../calendar/dates';
import { Exact } from '../../money/exact';
import { round } from '../../money/roundings';
import { Paper } from '../../working/reckoning';
import type { AssessedLeave, KindOfLeaveByLaw, LeaveByLawFacts, PartOfLeave } from '../leave-by-law';
import { averageEarnings } from './average-earnings';
import { tables } from './tables';

/** What the law says of one kind of family leave. */
interface Family extends KindOfLeaveByLaw {
  /** The Saturday that ends the week by which service and earnings count. */
  countsBy(about: LeaveByLawFacts['about']): IsoDate;
  /** Weeks paid in all, of which the first so many without a ceiling. */
  weeks: number;
  uncapped: number;
  /** Why the leave cannot begin or end as it does; nothing where it can. */
  timing(facts: LeaveByLawFacts): { sentence: string; holds: boolean }[];
  source: { publication: string; section?: string };
}

const sundayOf = (date: IsoDate): IsoDate => addDays(date, -weekday(date));
const saturdayOf = (date: IsoDate): IsoDate => addDays(sundayOf(date), 6);
/** The end of the fifteenth week before the week in which a child is expected. */
const fifteenWeeksBefore = (due: IsoDate): IsoDate => addDays(saturdayOf(due), -15 * 7);
/** Who was employed in the first of 26 weeks that end with a week, whichever day of it: a part of a week counts as one. */
export const latestStart = (saturday: IsoDate): IsoDate => addDays(saturday, -25 * 7);

const day = (about: LeaveByLawFacts['about'], key: string, label: string): IsoDate => {
  const date = about[key] ?? '';
  if (!date) throw new RangeError(`${label} is missing`);
  return date;
};
const dateField = (key: string, label: string, help?: string) => ({ key, label, kind: 'date' as const, ...(help ? { help } : {}) });
const DUE = dateField('due', 'Child expected on', 'As the maternity certificate says');
const MATERNITY = { publication: 'Social Security Contributions and Benefits Act 1992, sections 164 to 171' };

const within = (facts: LeaveByLawFacts, from: IsoDate, weeks: number, of: string) => {
  const last = addDays(from, weeks * 7 - 1);
  return { sentence: `It ends within ${weeks} weeks of ${of}, by ${writtenDate(last)}`, holds: facts.to <= last };
};
const notBefore = (facts: LeaveByLawFacts, date: IsoDate, why: string) => ({
  sentence: `It begins not before ${writtenDate(date)}, ${why}`,
  holds: facts.from >= date,
});

export const FAMILY: readonly Family[] = [
  {
    code: 'maternity',
    label: 'Maternity',
    treatment: 'smp',
    refusal: 'SMP1',
    fields: [DUE, dateField('evidence', 'Maternity certificate seen on')],
    countsBy: (about) => fifteenWeeksBefore(day(about, 'due', 'The day on which the child is expected')),
    weeks: 39,
    uncapped: 6,
    timing: (facts) => [
      notBefore(facts, addDays(sundayOf(day(facts.about, 'due', 'The day')), -11 * 7), 'the eleventh week before the child is expected'),
      { sentence: 'The maternity certificate is on file', holds: Boolean(facts.about['evidence']) },
    ],
    source: MATERNITY,
  },
  {
    code: 'adoption',
    label: 'Adoption',
    treatment: 'sap',
    refusal: 'SAP1',
    fields: [dateField('matched', 'Told of the match on'), dateField('placed', 'Child placed on')],
    countsBy: (about) => saturdayOf(day(about, 'matched', 'The day of the match')),
    weeks: 39,
    uncapped: 6,
    timing: (facts) => [
      notBefore(facts, addDays(day(facts.about, 'placed', 'The day of the placement'), -14), 'fourteen days before the placement'),
    ],
    source: { publication: 'Social Security Contributions and Benefits Act 1992, sections 171ZL to 171ZT' },
  },
  {
    code: 'paternity',
    label: 'Paternity',
    treatment: 'spp',
    refusal: 'SPP1',
    fields: [DUE, dateField('born', 'Child born on')],
    countsBy: (about) => fifteenWeeksBefore(day(about, 'due', 'The day on which the child is expected')),
    weeks: 2,
    uncapped: 0,
    timing: (facts) => {
      const born = day(facts.about, 'born', 'The day of birth');
      return [notBefore(facts, born, 'the birth'), within(facts, born, 52, 'the birth')];
    },
    source: { publication: 'Social Security Contributions and Benefits Act 1992, sections 171ZA to 171ZK' },
  },
  {
    code: 'shared-parental',
    label: 'Shared parental',
    treatment: 'shpp',
    fields: [
      DUE,
      dateField('born', 'Child born on'),
      { key: 'weeks', label: 'Weeks of pay given', kind: 'count', help: 'Of the 37 that the parents share' },
    ],
    countsBy: (about) => fifteenWeeksBefore(day(about, 'due', 'The day on which the child is expected')),
    weeks: 37,
    uncapped: 0,
    timing: (facts) => {
      const born = day(facts.about, 'born', 'The day of birth');
      return [notBefore(facts, born, 'the birth'), within(facts, born, 52, 'the birth')];
    },
    source: { publication: 'Statutory Shared Parental Pay (General) Regulations 2014' },
  },
  {
    code: 'bereavement',
    label: 'Parental bereavement',
    treatment: 'spbp',
    fields: [dateField('died', 'Child died on')],
    countsBy: (about) => addDays(sundayOf(day(about, 'died', 'The day of the death')), -1),
    weeks: 2,
    uncapped: 0,
    timing: (facts) => {
      const died = day(facts.about, 'died', 'The day of the death');
      return [notBefore(facts, died, 'the death'), within(facts, died, 56, 'the death')];
    },
    source: { publication: 'Statutory Parental Bereavement Pay (General) Regulations 2020' },
  },
  {
    code: 'neonatal',
    label: 'Neonatal care',
    treatment: 'sncp',
    fields: [
      dateField('born', 'Child born on'),
      dateField('care', 'Neonatal care began on'),
      { key: 'weeks', label: 'Whole weeks of care', kind: 'count' },
    ],
    countsBy: (about) => addDays(sundayOf(day(about, 'care', 'The day on which care began')), -1),
    weeks: 12,
    uncapped: 0,
    timing: (facts) => {
      const born = day(facts.about, 'born', 'The day of birth');
      return [
        notBefore(facts, addDays(day(facts.about, 'care', 'The day'), 7), 'when seven days of care are over'),
        within(facts, born, 68, 'the birth'),
        { sentence: 'Care began within 28 days of the birth', holds: daysBetween(born, facts.about['care'] ?? '') <= 28 },
      ];
    },
    source: { publication: 'Statutory Neonatal Care Pay (General) Regulations 2025' },
  },
];

/** Tests with their reasons, and week by week what is paid; nothing where a test fails. */
export function assessFamily(kind: Family, facts: LeaveByLawFacts): AssessedLeave {
  const paper = new Paper(true);
  const { from, to, hired, left } = facts;
  const saturday = kind.countsBy(facts.about);
  const average = averageEarnings(paper, facts, saturday);
  const lower = tables.value('gb.ni.lower.weekly', saturday);
  const given = facts.about['weeks'] ? Math.min(kind.weeks, Number(facts.about['weeks'])) : kind.weeks;
  const taken = facts.others.reduce((sum, other) => sum + daysBetween(other.from, other.to) + 1, 0);
  const tests = [
    {
      sentence: `Employed for 26 weeks into the week that ends on ${writtenDate(saturday)}: since ${writtenDate(latestStart(saturday))} at the latest`,
      holds: hired <= latestStart(saturday) && (left === undefined || left >= addDays(saturday, -6)),
    },
    {
      sentence: `Average weekly earnings of ${average.amount.toDecimal(2)} reach the lower earnings limit of ${lower.value.toDecimal(2)}`,
      holds: !lower.value.isAbove(average.amount),
    },
    ...kind.timing(facts),
    ...(taken ? [{ sentence: `With leave taken before, no more than ${given} weeks are paid`, holds: taken < given * 7 }] : []),
  ];
  const entitled = tests.every(({ holds }) => holds);
  return { tests, entitled, parts: entitled ? partsOf() : [], workings: paper.workings };

  function partsOf(): PartOfLeave[] {
    const share = tables.value('gb.statutory.share', from);
    const ninety = paper
      .reckon('share', '90 per cent of average weekly earnings')
      .start(average.label, average)
      .percent('Share', share.value)
      .round('up')
      .source(share.source, kind.source)
      .done();
    const parts: PartOfLeave[] = [];
    const days = Math.min(daysBetween(from, to) + 1, given * 7 - taken);
    for (let first = 0; first < days; first += 7) {
      const begins = addDays(from, first);
      const length = Math.min(7, days - first);
      const number = Math.floor((first + taken) / 7) + 1;
      const flat = tables.value('gb.statutory.weekly', begins);
      const capped = number > kind.uncapped;
      const key = capped ? `week:${flat.value.toDecimal(2)}` : 'week:first';
      if (!paper.workings[key]) {
        const week = paper.reckon(key, capped ? 'A week' : `A week of the first ${kind.uncapped}`).start(ninety.label, ninety);
        if (capped) week.atMost('Weekly rate', flat.value).source(flat.source);
        week.source(kind.source).done();
      }
      const weekly = Exact.of(paper.workings[key]?.amount ?? '0');
      const amount = length === 7 ? weekly : round(weekly.times(Exact.whole(length)).over(Exact.whole(7)), 'up', 2);
      parts.push({ from: begins, to: addDays(begins, length - 1), label: `week ${number} of ${given}`, amount: amount.toMinor(), key });
    }
    return parts;
  }
}
