import type { IsoDate } from '../calendar/dates';
import type { XmlNode } from '../files/xml-tree';
import type { FormField } from './form-field';

/** What an agency tells an employer of one person's tax details. */
export interface Notice {
  /** Notices of one kind follow each other: an older one than the last is not used any more. */
  kind: string;
  /** As a list shows it: "tax code 1100L". */
  label: string;
  /** The national number without separators, the payroll number and the name, as far as the notice has them. */
  number: string;
  code: string;
  name: string;
  /** Of which employer it is, by its number there. */
  employer: string;
  issued: IsoDate;
  from: IsoDate;
  /** Facts of the tax details that it changes. */
  changes: Readonly<Record<string, unknown>>;
}

/** How notices are read, and what changes for many at the turn of a year. */
export interface NoticeRules {
  title: string;
  /** In words, for who chooses a file. */
  format: string;
  read(root: XmlNode): { notices: Notice[]; faults: string[] };
  /** A change of everybody's details from a day on, such as codes that all go up. */
  general: {
    title: string;
    help: string;
    fields: readonly FormField[];
    /** What somebody's details become; nothing where they stay. */
    apply(facts: Readonly<Record<string, unknown>>, entered: Readonly<Record<string, string>>): Record<string, unknown> | undefined;
    /** How the details are told apart in a list. */
    says(facts: Readonly<Record<string, unknown>>): string;
  };
}
