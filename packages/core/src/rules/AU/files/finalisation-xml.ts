import type { Element } from '../../../files/xml';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import type { Sender } from '../../../filings/sender';
import { soFar } from '../forms/stated';
import { eventOf, payee, wants } from './pay-event-xml';

/** An update event of the whole year in which everybody's statement is marked as final. */
function write({ period, copies, lines }: FilingContent, sender: Sender): string {
  const line = (key: string): number => lines.find((one) => one.line === key)?.amount ?? 0;
  const payees = copies.map(({ personId, boxes }): Element => {
    const who = sender.people.get(personId);
    if (!who) throw new RangeError('somebody of the finalisation is not on file');
    const amounts = new Map(boxes.map(({ box, amount }) => [box.startsWith('fringe') ? box : soFar(box), amount]));
    return payee(who, (key) => amounts.get(key) ?? 0, { from: period.from, to: period.to, final: true });
  });
  return eventOf(
    sender,
    { key: `final ${period.key}`, to: period.to, payees, sums: { gross: line('gross'), withheld: line('withheld') } },
    'update',
  );
}

/** The file of a finalisation. */
export const finalisationFile: FilingFile = { format: 'XML of pay events', extension: 'xml', wants, write };
