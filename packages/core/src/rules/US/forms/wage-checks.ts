import { Exact } from '../../../money/exact';
import { dateOf } from '../../../calendar/dates';
import type { Minor } from '../../../money/amounts';
import type { Box, CopyCheck, PersonSums } from '../../../filings/filing';
import { person } from '../identity';
import { tables } from '../tables';

/** Letters that a name can have in the agency's file (Publication EFW2): no figures, no marks but hyphen and apostrophe. */
const NAME = /^[A-Za-zÀ-ÿ' .-]+$/;
const LONGEST = { given: 15, family: 20 };

/** What is wrong with the facts of whoever is stated: the number, the name as the agency's file wants it, the address. */
export function personChecks({ name, givenName, familyName, number, shared, address }: PersonSums): CopyCheck[] {
  const checks: CopyCheck[] = [];
  const stop = (code: string, sentence: string) => checks.push({ code, weight: 'stop', sentence });
  const look = (code: string, sentence: string) => checks.push({ code, weight: 'look', sentence });
  if (!number) stop('number-missing', `${name} has no social security number on file. Ask for it and enter it on the person's page.`);
  else if (number.replace(/\D/g, '').length !== 9)
    stop('number-length', `The social security number of ${name} does not have nine figures.`);
  else if (number.startsWith('9'))
    stop(
      'number-taxpayer',
      `The number of ${name} begins with 9: it is a taxpayer number, and a wage statement wants the social security number. Ask for the card.`,
    );
  else if (!person.number.isOne(number))
    stop('number-invalid', `The social security number of ${name} cannot exist. Compare it with the card.`);
  if (shared) stop('number-shared', `The social security number of ${name} is on file for somebody else too. Correct one of them.`);
  const [given = '', ...middle] = givenName.split(' ');
  if (!NAME.test(givenName) || !NAME.test(familyName))
    look('name-letters', `The name of ${name} has letters or marks that the agency's file does not take. Write it as the card has it.`);
  if (given.length > LONGEST.given || middle.join(' ').length > LONGEST.given || familyName.length > LONGEST.family)
    look('name-long', `The name of ${name} is longer than the agency's file has room for, and is cut there.`);
  if (!address) look('address-missing', `${name} has no full postal address.`);
  return checks;
}

/** Checks of one person's boxes and facts. */
export function checksOf(year: number, boxes: readonly Box[], facts: PersonSums): CopyCheck[] {
  const amount = (box: string): Minor => boxes.find((candidate) => candidate.box === box)?.amount ?? 0;
  const checks = personChecks(facts);
  const { name } = facts;
  const stop = (code: string, sentence: string) => checks.push({ code, weight: 'stop', sentence });
  if (amount('12 TP') && !facts.details['tippedOccupation'])
    checks.push({
      code: 'occupation-missing',
      weight: 'look',
      sentence: `${name} was paid tips and has no occupation code (box 14b). Enter it with the tax details.`,
    });
  const last = dateOf(year, 12, 31);
  const base = tables.value('us.oasdi.wage-base', last).value.toMinor();
  const social = amount('3') + amount('7');
  if (social > base) stop('wage-base-exceeded', `Boxes 3 and 7 of ${name} are over the year's wage base.`);
  if (social > amount('5')) stop('boxes-disagree', `Boxes 3 and 7 of ${name} are larger than box 5.`);
  // Each payslip rounds its tax by itself: at most half a cent on each of up to 53 of them.
  const off = (taxed: Minor, rate: string, tax: Minor): boolean => {
    const expected = Exact.minor(taxed).times(tables.value(rate, last).value).over(Exact.whole(100));
    const gap = Exact.minor(tax).minus(expected);
    return gap.isAbove(Exact.of('0.27')) || gap.isBelow(Exact.of('-0.27'));
  };
  if (off(social, 'us.oasdi.rate', amount('4')))
    stop('box-4', `Box 4 of ${name} is not 6.2% of boxes 3 and 7. A tax overridden, or a wrong opening balance, would explain it.`);
  // Over the threshold the additional tax makes it more than the plain rate.
  const over = amount('5') > tables.value('us.medicare.additional.threshold', last).value.toMinor();
  if (!over && off(amount('5'), 'us.medicare.rate', amount('6')))
    stop('box-6', `Box 6 of ${name} is not 1.45% of box 5. A tax overridden, or a wrong opening balance, would explain it.`);
  if (amount('2') > amount('1')) stop('box-2', `Box 2 of ${name} is more than box 1: more was withheld than was paid.`);
  const deferred = ['12 D', '12 E', '12 AA', '12 BB'].reduce((sum, box) => sum + amount(box), 0);
  if (deferred > amount('5')) stop('deferrals', `${name} deferred more in box 12 than the Medicare wages of box 5.`);
  for (const box of boxes) if (box.amount < 0) stop('box-negative', `Box ${box.box} of ${name} is negative.`);
  return checks;
}
