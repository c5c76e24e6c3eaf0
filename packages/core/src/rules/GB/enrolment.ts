import { addDays, addMonths, writtenDate, type IsoDate } from '../../calendar/dates';
import { decimalOf } from '../../money/amounts';
import { Exact } from '../../money/exact';
import { Paper } from '../../working/reckoning';
import type { EnrolmentAssessment, EnrolmentCategory, EnrolmentFacts, EnrolmentLaw } from '../enrolment';
import { ENROLMENT_LETTERS } from './enrolment-letters';
import { periodOfPension, QUALIFYING, schemeFields, schemeItems } from './pension-contributions';
import { hasAge, reachesAge, statePensionDay } from './pension-age';
import { tables } from './tables';

const ACT = { publication: 'Pensions Act 2008, sections 3, 7, 9 and 13', section: 'Jobholders and workers by age and qualifying earnings' };
const MONTHS_OF_OPTING_OUT = 1;

const CATEGORIES = {
  eligible: { code: 'eligible', label: 'Eligible jobholder', duty: 'enrol' },
  nonEligible: { code: 'non-eligible', label: 'Non-eligible jobholder', duty: 'tell', asks: 'opted-in', letter: 'may-opt-in' },
  entitled: { code: 'entitled', label: 'Entitled worker', duty: 'tell', asks: 'joined', letter: 'may-join' },
  none: { code: 'none', label: 'Not within the duties', duty: 'nothing' },
} as const satisfies Record<string, EnrolmentCategory>;

const latest = (...days: (IsoDate | undefined)[]): IsoDate => days.reduce<IsoDate>((last, day) => (day && day > last ? day : last), '');

/** By the age on the pay date and the earnings that the pay reference period pays. */
function assess(facts: EnrolmentFacts): EnrolmentAssessment {
  const { payDate, frequency, born } = facts;
  const period = periodOfPension(frequency);
  const [trigger, lower] = [tables.value(`gb.pension.trigger.${period}`, payDate), tables.value(`gb.pension.lower.${period}`, payDate)];
  const paper = new Paper(true);
  const earned = paper
    .reckon('earnings', 'Qualifying earnings of the pay reference period')
    .start('Pay and statutory pay', Exact.minor(facts.earnings))
    .source(ACT, trigger.source)
    .done();
  const [aboveTrigger, aboveLower] = [earned.amount.isAbove(trigger.value), earned.amount.isAbove(lower.value)];
  const from = latest(facts.from, facts.hired, facts.dutiesFrom);
  if (!born)
    return {
      category: CATEGORIES.none,
      tests: [{ sentence: 'A date of birth is on file', holds: false }],
      from,
      workings: paper.workings,
    };
  const pension = statePensionDay(born);
  const within = hasAge(born, 16, payDate) && !hasAge(born, 75, payDate);
  const working = hasAge(born, 22, payDate) && payDate < pension;
  const category = !within
    ? CATEGORIES.none
    : aboveTrigger && working
      ? CATEGORIES.eligible
      : aboveLower
        ? CATEGORIES.nonEligible
        : CATEGORIES.entitled;
  return {
    category,
    tests: [
      { sentence: `From 16 to 74 years old on ${writtenDate(payDate)}`, holds: within },
      { sentence: `22 or older, and below state pension age (reached on ${writtenDate(pension)})`, holds: working },
      {
        sentence: `Earnings of ${decimalOf(facts.earnings)} are more than the trigger of ${trigger.value.toDecimal(2)}`,
        holds: aboveTrigger,
      },
      { sentence: `They are more than the lower limit of ${lower.value.toDecimal(2)}`, holds: aboveLower },
    ],
    // A birthday within the period begins it on that day.
    from: category === CATEGORIES.eligible ? latest(from, reachesAge(born, 22)) : from,
    workings: paper.workings,
  };
}

/** Duties of employers towards their workers (Pensions Act 2008, part 1; Automatic Enrolment Regulations 2010). */
export const enrolment: EnrolmentLaw = {
  title: 'Workplace pensions',
  noun: 'a workplace pension',
  earnings: QUALIFYING,
  categories: Object.values(CATEGORIES),
  dutiesFrom: ({ dutiesFrom }) => (typeof dutiesFrom === 'string' && dutiesFrom ? dutiesFrom : undefined),
  assess,
  // Regulation 7: the six weeks that begin with the enrolment date.
  within: 42,
  postponements: [
    { code: 'duties', label: 'from the day the duties began' },
    { code: 'start', label: 'from the first day of work' },
    { code: 'eligible', label: 'from the day of first being eligible' },
  ],
  postponedAtMost: (from) => addMonths(from, 3),
  exemptions: [
    { code: 'notice', label: 'Notice of leaving was given or received' },
    { code: 'left-before', label: 'Left the scheme within the twelve months before' },
    { code: 'protected', label: 'Tax protection of earlier savings' },
    { code: 'winding-up', label: 'Paid a lump sum when a scheme was wound up' },
    { code: 'director', label: 'Director, not enrolled' },
    { code: 'partner', label: 'Partner of a limited liability partnership' },
    { code: 'contract', label: 'No worker of this employer in the Kingdom' },
  ],
  /** A month from the later of membership and the letter (regulation 9). */
  optOutUntil({ since, letters, because }) {
    const given = letters[ENROLMENT_LETTERS.enrolled.code];
    if (!since || because === 'joined' || because === 'agreed' || given === undefined || given < since) return undefined;
    return addDays(addMonths(latest(since, given), MONTHS_OF_OPTING_OUT), -1);
  },
  enrolmentLetter: ENROLMENT_LETTERS.enrolled.code,
  postponementLetter: ENROLMENT_LETTERS.postponed.code,
  letters: Object.values(ENROLMENT_LETTERS),
  scheme: { fields: schemeFields, items: schemeItems },
  /** Three months on either side of the third anniversary; the declaration within five months of it (regulation 12). */
  round(dutiesFrom, chosen, today) {
    let anniversary = addMonths(chosen.at(-1) ?? dutiesFrom, 36);
    while (!chosen.length && addMonths(anniversary, 5) < today) anniversary = addMonths(anniversary, 36);
    return {
      anniversary,
      from: addMonths(anniversary, -3),
      to: addDays(addMonths(anniversary, 3), -1),
      declareBy: addDays(addMonths(anniversary, 5), -1),
    };
  },
  declareBy: (dutiesFrom) => addDays(addMonths(dutiesFrom, 5), -1),
  leftSince: (day) => addMonths(day, -12),
};
