/** What an agency answers to a file, each answer under its own name. */
export interface AgencyAnswer {
  answer: string;
  /** The file that it answers, by the key it was handed in under. */
  file: string;
  on: string;
  status: 'received' | 'accepted' | 'rejected';
  /** By which the agency names what it has. */
  number: string;
  /** Why it was rejected: the agency's code, its text, and the line or the person it is about. */
  faults: { code: string; text: string; line?: string; person?: string }[];
}

/** What an agency is to Woodruff: it takes files, and answers later. A stand-in or a real connection may stand behind it. */
export interface Agency {
  /** The same file under the same key again changes nothing. */
  submit(file: { key: string; agency: string; name: string; content: string; on: string }): Promise<void>;
  /** Everything answered until a day to the files given; the same answer may come again. */
  answers(files: readonly string[], until: string): Promise<AgencyAnswer[]>;
}
