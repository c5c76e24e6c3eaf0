import { addDays, writtenDate, type IsoDate } from '../calendar/dates';
import type { Method } from '../pay-items/pay-item';
import type { Working } from '../working/working';
import type { FormField } from './form-field';

/** Why somebody is in a scheme. */
export const ENROLLED_BECAUSE = ['enrolled', 're-enrolled', 'opted-in', 'joined', 'agreed'] as const;
export type EnrolledBecause = (typeof ENROLLED_BECAUSE)[number];

/** What happened to somebody's membership; only ever added to, earliest first. */
export type EnrolmentStep = { on: IsoDate } & (
  | { step: 'enrolled'; scheme: string; tier: string; because: EnrolledBecause }
  | { step: 'postponed'; kind: string; until: IsoDate }
  | { step: 'opted-out'; reference: string }
  | { step: 'ceased' }
  | { step: 'exempt'; reason: string }
  | { step: 'exempt-no-more' }
  | { step: 'letter'; letter: string }
);

/** Where somebody stands, and since when. */
export interface EnrolmentStanding {
  state: 'in' | 'postponed' | 'opted-out' | 'ceased' | 'exempt' | 'out';
  since?: IsoDate;
  scheme?: string;
  tier?: string;
  because?: EnrolledBecause;
  until?: IsoDate;
  kind?: string;
  reason?: string;
  /** Letters by the day on which each was last given. */
  letters: Readonly<Record<string, IsoDate>>;
}

/** Follows the steps of one person. */
export function standingOf(steps: readonly EnrolmentStep[]): EnrolmentStanding {
  let standing: EnrolmentStanding = { state: 'out', letters: {} };
  for (const { on, ...one } of steps) {
    const { letters } = standing;
    if (one.step === 'letter') standing = { ...standing, letters: { ...letters, [one.letter]: on } };
    else if (one.step === 'enrolled')
      standing = { state: 'in', since: on, scheme: one.scheme, tier: one.tier, because: one.because, letters };
    else if (one.step === 'postponed') standing = { state: 'postponed', since: on, kind: one.kind, until: one.until, letters };
    else if (one.step === 'exempt') standing = { state: 'exempt', since: on, reason: one.reason, letters };
    else if (one.step === 'exempt-no-more') standing = { state: 'out', since: on, letters };
    else standing = { state: one.step, since: on, letters };
  }
  return standing;
}

/** What the law calls somebody by age and earnings, and what follows of it. */
export interface EnrolmentCategory {
  code: string;
  label: string;
  duty: 'enrol' | 'tell' | 'nothing';
  /** How somebody of this category may come in who asks for it. */
  asks?: EnrolledBecause;
  /** Letter that tells of that right. */
  letter?: string;
}

/** What the law looks at on a pay date. */
export interface EnrolmentFacts {
  payDate: IsoDate;
  /** The pay reference period. */
  from: IsoDate;
  to: IsoDate;
  frequency: string;
  /** Earnings of the pay reference period, minor units. */
  earnings: number;
  born?: IsoDate;
  hired?: IsoDate;
  dutiesFrom: IsoDate;
}

export interface EnrolmentAssessment {
  category: EnrolmentCategory;
  /** Tests in words, with whether each holds. */
  tests: { sentence: string; holds: boolean }[];
  /** The day from which somebody of this category would be a member. */
  from: IsoDate;
  workings: Readonly<Record<string, Working>>;
}

/** How a scheme's contributions are made, out of what was chosen. */
export interface SchemeItems {
  employee: { treatment: string; method: Method };
  employer: { treatment: string; method: Method };
}

export interface EnrolmentLetterFacts {
  name: string;
  employer: string;
  signedBy: string;
  category: string;
  standing: EnrolmentStanding;
  scheme?: {
    name: string;
    provider: string;
    reference: string;
    employee: string;
    employer: string;
    choices: Readonly<Record<string, string>>;
  };
}

/** A letter that the law wants to be given. */
export interface EnrolmentLetter {
  code: string;
  title: string;
  paragraphs(facts: EnrolmentLetterFacts): string[];
}

/** One round of enrolling again those who left. */
export interface EnrolmentRound {
  /** Anniversary that the round goes by. */
  anniversary: IsoDate;
  /** The day of enrolling again is chosen from this one to that. */
  from: IsoDate;
  to: IsoDate;
  declareBy: IsoDate;
}

/** Membership of a savings scheme that a law wants employers to see to. */
export interface EnrolmentLaw {
  /** Heading of its page. */
  title: string;
  /** As sentences say it: "a workplace pension". */
  noun: string;
  /** Base whose sum in the pay reference period is assessed. */
  earnings: string;
  categories: readonly EnrolmentCategory[];
  /** The day since which the employer has the duties, out of its registrations. */
  dutiesFrom(employer: Readonly<Record<string, unknown>>): IsoDate | undefined;
  assess(facts: EnrolmentFacts): EnrolmentAssessment;
  /** What was to be done is done within so many days of the day it follows from. */
  within: number;
  postponements: readonly { code: string; label: string }[];
  /** The last day to which something can be put off from a day on. */
  postponedAtMost(from: IsoDate): IsoDate;
  exemptions: readonly { code: string; label: string }[];
  /** The last day of opting out, by when the membership began and its letter was given; none while no letter was given. */
  optOutUntil(standing: EnrolmentStanding): IsoDate | undefined;
  enrolmentLetter: string;
  postponementLetter: string;
  letters: readonly EnrolmentLetter[];
  scheme: {
    fields: readonly FormField[];
    /** @throws RangeError for choices that the law does not allow together */
    items(choices: Readonly<Record<string, string>>): SchemeItems;
  };
  /** The round that is next or under way on a day; `chosen` are the days that were chosen before, earliest first. */
  round(dutiesFrom: IsoDate, chosen: readonly IsoDate[], today: IsoDate): EnrolmentRound;
  /** By when the first declaration is made. */
  declareBy(dutiesFrom: IsoDate): IsoDate;
  /** Whoever left within this time before a round's day need not be enrolled again. */
  leftSince(day: IsoDate): IsoDate;
}

/** What the employer has to do about somebody, by when. */
export interface EnrolmentDuty {
  what: 'enrol' | 're-enrol' | 'letter';
  /** The day that it counts from: of membership, or of the right that a letter tells of. */
  from: IsoDate;
  by: IsoDate;
  letter?: string;
  sentence: string;
}

/** Out of where somebody stands and what the law says on a pay date. `rounds` are days of enrolling again that were chosen. */
export function dutyOf(
  law: EnrolmentLaw,
  standing: EnrolmentStanding,
  assessed: EnrolmentAssessment,
  { payDate, rounds }: { payDate: IsoDate; rounds: readonly IsoDate[] },
): EnrolmentDuty | undefined {
  const { category } = assessed;
  const { state, since = payDate, until, letters } = standing;
  const by = (day: IsoDate) => addDays(day, law.within - 1);
  const letter = (code: string, from: IsoDate): EnrolmentDuty | undefined =>
    (letters[code] ?? '') >= from
      ? undefined
      : {
          what: 'letter',
          from,
          by: by(from),
          letter: code,
          sentence: `${law.letters.find((one) => one.code === code)?.title ?? code}: to be given by ${writtenDate(by(from))}.`,
        };
  if (state === 'exempt') return undefined;
  if (state === 'in') return standing.because === 'agreed' ? undefined : letter(law.enrolmentLetter, since);
  if (state === 'postponed' && payDate <= (until ?? payDate)) return letter(law.postponementLetter, since);
  if (state === 'opted-out' || state === 'ceased') {
    const again = rounds.find((day) => day > since && day <= payDate);
    if (again === undefined || category.duty !== 'enrol' || since > law.leftSince(again)) return undefined;
    return {
      what: 're-enrol',
      from: again,
      by: by(again),
      sentence: `${category.label}: to be enrolled again from ${writtenDate(again)}.`,
    };
  }
  const from = until !== undefined && until > assessed.from ? until : assessed.from;
  if (category.duty === 'enrol')
    return {
      what: 'enrol',
      from,
      by: by(from),
      sentence: `${category.label}: to be enrolled from ${writtenDate(from)}, by ${writtenDate(by(from))}.`,
    };
  // Told once of the right to ask for it; another category has another right.
  return category.duty === 'tell' && category.letter && letters[category.letter] === undefined ? letter(category.letter, from) : undefined;
}
