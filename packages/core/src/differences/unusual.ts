import { written, type Minor } from '../money/amounts';

/** What is known of one payslip beside its figures, for finding what is unusual. Amounts in minor units. */
export interface PayslipFacts {
  payslipId: string;
  name: string;
  net: Minor;
  gross: Minor;
  taxes: Minor;
  /** In the run it is compared with. */
  previous: { net: Minor; gross: Minor; taxes: Minor } | null;
  /** Net of the latest regular payslips, the latest first. */
  earlierNets: readonly Minor[];
  overtime: Minor;
  /** Pay for overtime on the latest regular payslips. */
  earlierOvertime: readonly Minor[];
  oneOffs: readonly { label: string; amount: Minor }[];
  overrides: readonly { label: string; given: Minor; workedOut: Minor; reason: string }[];
  /** The way of payment changed since the compared run was approved. */
  newPayment: { what: string; by: string } | null;
  /** Others whose net goes to the same account. */
  sharesAccountWith: readonly string[];
  /** Straight hours paid, and days of the period. */
  hours: number;
  days: number;
}

/** Something unusual, with what it would cost if it were wrong. */
export interface Unusual {
  payslipId: string;
  name: string;
  code: string;
  cost: Minor;
  sentence: string;
  /** The figure to open. */
  figure: string;
}

/** A change of net below this is not unusual, whatever the per cent. */
const SMALL = 10_000;
const LARGE_SHARE = 0.25;

/**
 * What an experienced clerk would look at, largest cost first. Nothing here keeps a run from being approved: open points do.
 */
export function unusualOf(payslips: readonly PayslipFacts[]): Unusual[] {
  return payslips.flatMap(findings).sort((a, b) => b.cost - a.cost || (a.name < b.name ? -1 : 1));
}

function findings(facts: PayslipFacts): Unusual[] {
  const found: Unusual[] = [];
  const add = (code: string, cost: Minor, sentence: string, figure: string) =>
    found.push({ payslipId: facts.payslipId, name: facts.name, code, cost, sentence, figure });
  const { net, gross, taxes, previous } = facts;
  const usual = median(facts.earlierNets);
  if (usual === null) add('first-pay', gross, `Paid for the first time: gross ${written(gross)}.`, 'gross');
  else if (Math.abs(net - usual) > SMALL && Math.abs(net - usual) > LARGE_SHARE * Math.abs(usual))
    add('net-unusual', Math.abs(net - usual), `Net ${written(net)}, where ${written(usual)} is usual: ${share(net, usual)}.`, 'net');
  const usualOvertime = median(facts.earlierOvertime) ?? 0;
  if (facts.overtime > 2 * usualOvertime && facts.overtime - usualOvertime > SMALL)
    add(
      'overtime',
      facts.overtime - usualOvertime,
      usualOvertime
        ? `Overtime of ${written(facts.overtime)}, where ${written(usualOvertime)} is usual.`
        : `Overtime of ${written(facts.overtime)}, and usually none.`,
      'gross',
    );
  for (const { label, amount } of facts.oneOffs)
    if (Math.abs(amount) > SMALL && Math.abs(amount) > 0.5 * Math.abs(gross - amount))
      add('one-off-large', Math.abs(amount), `${label} of ${written(amount)} beside ordinary pay of ${written(gross - amount)}.`, 'gross');
  for (const { label, given, workedOut, reason } of facts.overrides)
    add(
      'by-hand',
      Math.abs(given - workedOut),
      `${label} overridden with ${written(given)} instead of ${written(workedOut)}: ${reason}`,
      'taxes',
    );
  if (facts.newPayment && net > 0)
    add('payment-changed', net, `${facts.newPayment.what}, changed by ${facts.newPayment.by} since the last run.`, 'net');
  if (facts.sharesAccountWith.length && net > 0)
    add('account-shared', net, `Paid to the same account as ${facts.sharesAccountWith.join(' and ')}.`, 'net');
  if (previous && previous.taxes > 0 && taxes === 0 && gross > 0)
    add('no-tax', previous.taxes, `No tax is withheld; it was ${written(previous.taxes)} last time.`, 'taxes');
  // Ten hours on every day of the week.
  if (facts.hours > 10 * facts.days)
    add(
      'hours',
      Math.round((gross * (facts.hours - 10 * facts.days)) / facts.hours),
      `${facts.hours} hours in ${facts.days} days.`,
      'gross',
    );
  return found;
}

function median(values: readonly Minor[]): Minor | null {
  if (!values.length) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? (sorted[middle] ?? 0) : Math.round(((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2);
}

const share = (now: Minor, usual: Minor): string =>
  usual === 0 ? 'usually nothing' : `${Math.round((100 * Math.abs(now - usual)) / Math.abs(usual))}% ${now > usual ? 'more' : 'less'}`;
