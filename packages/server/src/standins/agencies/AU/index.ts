export { numberFault } from './pay-event';
export { writeNotices } from './notices';
import { NOTHING, type Read } from '../read';
import { readContributions } from './contributions';
import { readPayEvent } from './pay-event';

/** A file by the reader of its kind. */
export const read = (name: string, content: string): Read =>
  name.endsWith('.xml')
    ? readPayEvent(content)
    : name.endsWith('.csv')
      ? readContributions(content)
      : { ...NOTHING, faults: [{ code: 'FORMAT', text: 'only pay events in XML and contributions as CSV are read here' }] };
