import { addDays, daysBetween, weekday, writtenDate, type IsoDate } from '../../calendar/dates';
import { Exact } from '../../money/exact';
import { round } from '../../money/roundings';
import { Paper } from '../../working/reckoning';
import type { AssessedLeave, KindOfLeaveByLaw, LeaveByLawFacts, PartOfLeave } from '../leave-by-law';
import { averageEarnings } from './average-earnings';
import { tables } from './tables';

const LAW = { publication: 'Social Security Contributions and Benefits Act 1992, sections 151 to 163', section: 'Statutory sick pay' };
/** Periods of incapacity no more than eight weeks apart are one. */
const LINKED_DAYS = 56;
const WEEKS_IN_ALL = 28;

export const SICK_LEAVE: KindOfLeaveByLaw = {
  code: 'sick',
  label: 'Sickness',
  treatment: 'ssp',
  refusal: 'SSP1',
  fields: [
    {
      key: 'pattern',
      label: 'Qualifying days',
      kind: 'choice',
      choices: [
        { value: '12345', label: 'Monday to Friday' },
        { value: '123456', label: 'Monday to Saturday' },
        { value: '1234567', label: 'Every day' },
        { value: '1234', label: 'Monday to Thursday' },
        { value: '123', label: 'Monday to Wednesday' },
        { value: '345', label: 'Wednesday to Friday' },
        { value: '67', label: 'Saturday and Sunday' },
      ],
    },
  ],
};

type Spell = Pick<LeaveByLawFacts, 'from' | 'to' | 'about'>;
/** Monday is 1, Sunday 7. */
const isQualifying = ({ about }: Spell, date: IsoDate): boolean => (about['pattern'] || '12345').includes(String(weekday(date) || 7));
const lengthOf = ({ from, to }: Spell): number => daysBetween(from, to) + 1;
const qualifyingOf = (spell: Spell): IsoDate[] =>
  Array.from({ length: lengthOf(spell) }, (_, index) => addDays(spell.from, index)).filter((date) => isQualifying(spell, date));

/** Spells before this one that link with it, each with the next. */
function linkedBefore(facts: LeaveByLawFacts): Spell[] {
  const linked: Spell[] = [];
  let begins = facts.from;
  for (const other of [...facts.others].reverse()) {
    if (other.to >= facts.from || lengthOf(other) < 4) continue;
    if (daysBetween(other.to, begins) - 1 > LINKED_DAYS) break;
    linked.unshift(other);
    begins = other.from;
  }
  return linked;
}

/**
 * Waiting days, the lower earnings limit and the share of earnings hold as the law of each day has them: until 5 April 2026
 * three waiting days and the limit, since then neither, and no more than so much of average earnings.
 */
export function assessSickness(facts: LeaveByLawFacts): AssessedLeave {
  const paper = new Paper(true);
  const linked = linkedBefore(facts);
  const first = linked[0]?.from ?? facts.from;
  const average = averageEarnings(paper, facts, addDays(first, -1));
  const newLaw = tables.has('gb.ssp.share', facts.from);
  const lower = tables.value('gb.ni.lower.weekly', first);
  const perWeek = Math.max(1, (facts.about['pattern'] || '12345').length);
  const before = linked.flatMap(qualifyingOf);
  const waiting = Number(tables.value('gb.ssp.waiting-days', facts.from).value.toDecimal(0));
  const waited = Math.min(waiting, before.length);
  const paidBefore = Math.max(0, before.length - waited);
  const qualifying = qualifyingOf(facts);
  const tests = [
    ...(newLaw
      ? []
      : [
          { sentence: `At least four days in a row are sick: ${lengthOf(facts)}`, holds: lengthOf(facts) >= 4 },
          {
            sentence: `Average weekly earnings of ${average.amount.toDecimal(2)} reach the lower earnings limit of ${lower.value.toDecimal(2)}`,
            holds: !lower.value.isAbove(average.amount),
          },
        ]),
    ...(linked.length ? [{ sentence: `It links with the sickness since ${writtenDate(first)}`, holds: true }] : []),
    {
      sentence: waiting
        ? `There are qualifying days beyond the ${waiting} waiting days${waited ? `, of which ${waited} were served before` : ''}`
        : 'There are qualifying days among them',
      holds: qualifying.length > waiting - waited,
    },
    { sentence: `No more than ${WEEKS_IN_ALL} weeks are paid`, holds: paidBefore < WEEKS_IN_ALL * perWeek },
  ];
  const entitled = tests.every(({ holds }) => holds);
  return { tests, entitled, parts: entitled ? partsOf() : [], workings: paper.workings };

  function partsOf(): PartOfLeave[] {
    const payable = qualifying.slice(waiting - waited, waiting - waited + WEEKS_IN_ALL * perWeek - paidBefore);
    const weeks = new Map<IsoDate, IsoDate[]>();
    for (const date of payable) {
      const sunday = addDays(date, -weekday(date));
      weeks.set(sunday, [...(weeks.get(sunday) ?? []), date]);
    }
    return [...weeks.values()].map((days): PartOfLeave => {
      const [begins = facts.from] = days;
      const flat = tables.value('gb.ssp.weekly', begins);
      const key = `week:${flat.value.toDecimal(2)}`;
      if (!paper.workings[key]) {
        const week = paper.reckon(key, 'A week of sick pay').start('Weekly rate', flat.value).source(flat.source, LAW);
        if (tables.has('gb.ssp.share', begins)) {
          const share = tables.value('gb.ssp.share', begins);
          const ofEarnings = paper
            .reckon('share', `${share.value.toDecimal(0)} per cent of average weekly earnings`)
            .start(average.label, average)
            .percent('Share', share.value)
            .round('up')
            .source(share.source)
            .done();
          week.atMost(ofEarnings.label, ofEarnings);
        }
        week.done();
      }
      const weekly = Exact.of(paper.workings[key]?.amount ?? '0');
      return {
        from: begins,
        to: days.at(-1) ?? begins,
        label: days.length === 1 ? '1 day' : `${days.length} days`,
        // A day is its part of the week's; what they come to is rounded up to a penny.
        amount: round(weekly.times(Exact.whole(days.length)).over(Exact.whole(perWeek)), 'up', 2).toMinor(),
        key,
      };
    });
  }
}
