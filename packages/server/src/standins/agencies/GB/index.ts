export { writeNotices } from './notices';
import { NOTHING, type Fault, type Read } from '../read';
import { readPayment } from './full-payment';
import { readSummary } from './payment-summary';

/** A file by the reader of its kind. */
export const read = (name: string, content: string): Read =>
  name.endsWith('.xml')
    ? (content.includes('<EmployerPaymentSummary>') ? readSummary : readPayment)(content)
    : { ...NOTHING, faults: [{ code: 'FORMAT', text: 'only submissions in XML are read here' }] };

/** An employer is known by its tax office and the reference there. */
export const numberFault = (taxpayer: string): Fault | null =>
  /^\d{3}\/[A-Z0-9]{1,10}$/.test(taxpayer) ? null : { code: 'PAYE-REF', text: 'the PAYE reference is none' };
