/** A file as an agency has read it. Nothing of it comes from anywhere but the file. */
export interface Read {
  form: string;
  from: string;
  to: string;
  /** Figures alone. */
  taxpayer: string;
  name: string;
  signed: boolean;
  corrects: boolean;
  /** It may come before its days are over. */
  ahead?: boolean;
  faults: Fault[];
}

export interface Fault {
  code: string;
  text: string;
  line?: string;
  person?: string;
}

export const NOTHING: Omit<Read, 'faults'> = { form: '', from: '', to: '', taxpayer: '', name: '', signed: false, corrects: false };
