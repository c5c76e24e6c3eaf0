import type { Read } from '../read';
import { readReport } from './state-reports';
import { readReturn } from './returns';
import { readStatements } from './wage-statements';

/** A file by the reader of its kind. */
export const read = (name: string, content: string): Read =>
  name.endsWith('.xml') ? readReturn(content) : name.endsWith('.csv') ? readReport(content) : readStatements(content);
