import type { Fault, Read } from '../read';
import { readCorrections } from './corrected-statements';
import { readInformation } from './information-returns';
import { readReport } from './state-reports';
import { readWages } from './quarterly-wages';
import { readReturn } from './returns';
import { readStatements } from './wage-statements';

/** A file by the reader of its kind. */
export function read(name: string, content: string): Read {
  if (name.endsWith('.xml')) return readReturn(content);
  if (name.endsWith('.csv')) return content.startsWith('Form Type') ? readInformation(content) : readReport(content);
  if (content.startsWith('A')) return readWages(content);
  return content.startsWith('RCA') ? readCorrections(content) : readStatements(content);
}

/** A federal number has nine figures. */
export const numberFault = (taxpayer: string): Fault | null =>
  /^\d{9}$/.test(taxpayer) ? null : { code: 'EIN', text: "the employer's number is not nine figures" };
