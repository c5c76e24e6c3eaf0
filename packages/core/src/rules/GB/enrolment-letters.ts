import { writtenDate } from '../../calendar/dates';
import type { EnrolmentLetter, EnrolmentLetterFacts } from '../enrolment';

const MORE =
  'More about pensions and saving for later life: moneyhelper.org.uk/pensions-and-retirement. About the law: thepensionsregulator.gov.uk.';

const rights =
  'Asking for it, or staying in, costs you nothing with us: the law forbids an employer to treat anybody worse for it, or to offer anything for leaving.';

const ofScheme = ({ scheme }: EnrolmentLetterFacts): string[] =>
  scheme
    ? [
        `The scheme is ${scheme.name} of ${scheme.provider}; its reference for this employer is ${scheme.reference || 'told by the provider'}.`,
        `You put in ${scheme.employee} per cent of ${PAID_ON[scheme.choices['basis'] ?? ''] ?? 'your earnings'}${RELIEF[scheme.choices['tax'] ?? ''] ?? ''}, and the employer puts in ${scheme.employer} per cent.`,
      ]
    : [];

const PAID_ON: Readonly<Record<string, string>> = {
  qualifying: 'your earnings between the limits that the law sets',
  basic: 'your basic pay',
  all: 'all your earnings',
};
const RELIEF: Readonly<Record<string, string>> = {
  'net-pay': ', taken before tax',
  'relief-at-source': ', to which the tax relief that the scheme claims belongs',
  sacrifice: ', given up of your pay and paid by the employer for you',
};

/** Letters of schedule 2 to the Automatic Enrolment Regulations 2010, and of regulations 21 and 24. */
export const ENROLMENT_LETTERS = {
  enrolled: {
    code: 'enrolled',
    title: 'You are enrolled into a workplace pension',
    paragraphs: (facts) => [
      `From ${writtenDate(facts.standing.since ?? '')} on you are a member of a pension scheme, as the law wants of everybody who is at least 22, below state pension age and earns more than the trigger.`,
      ...ofScheme(facts),
      'Your contributions are taken from your pay from the first pay date after that day on.',
      `You may leave. Within a month of the later of that day and the day of this letter you opt out with the form of the scheme; you get it from ${facts.scheme?.provider ?? 'the provider'}, not from the employer. What was taken is then paid back. Later you may stop, and what was paid in stays in the scheme.`,
      'Who opted out or stopped may come back once in twelve months by writing to the employer, and about every three years is enrolled again by law.',
      rights,
      MORE,
    ],
  },
  postponed: {
    code: 'postponed',
    title: 'Your enrolment into a workplace pension is postponed',
    paragraphs: ({ standing, employer }) => [
      `${employer} looks at whether the law wants you to be enrolled into a workplace pension on ${writtenDate(standing.until ?? '')}, and not before: it is put off from ${writtenDate(standing.since ?? '')}.`,
      'If on that day you are at least 22, below state pension age, work in the Kingdom and earn more than the trigger, you are enrolled from it.',
      'You need not wait. Who earns more than the lower limit of qualifying earnings may opt in at any time, and the employer pays in, too; who earns less may join, without a contribution of the employer. Write to the employer and sign it, or send an e-mail that says so.',
      rights,
      MORE,
    ],
  },
  'may-opt-in': {
    code: 'may-opt-in',
    title: 'You may opt in to a workplace pension',
    paragraphs: (facts) => [
      'By your age and earnings you are not enrolled by law. You may ask for it at any time: write to the employer that you want to opt in and sign it, or send an e-mail that says so. Then you are enrolled, and the employer pays in, too.',
      ...ofScheme(facts),
      'If your age or earnings change, you may be enrolled by law, and are told of it.',
      rights,
      MORE,
    ],
  },
  'may-join': {
    code: 'may-join',
    title: 'You may join a workplace pension',
    paragraphs: () => [
      'You earn no more than the lower limit of qualifying earnings. You may ask to join a pension scheme: write to the employer and sign it, or send an e-mail that says so. The employer then takes your contribution from your pay, and need not put in anything itself.',
      'If your age or earnings change, you may opt in with a contribution of the employer, or are enrolled by law, and are told of it.',
      rights,
      MORE,
    ],
  },
} as const satisfies Record<string, EnrolmentLetter>;
