import type { IsoDate } from '../calendar/dates';

/** An address as it is on file. */
export type PostalAddress = Readonly<Record<'line1' | 'line2' | 'city' | 'state' | 'postcode', string>>;

/** Somebody as an agency's file names them. */
export interface Stated {
  /** Without its separators; empty where it is missing. */
  number: string;
  givenName: string;
  familyName: string;
  address: PostalAddress;
  /** By which the employer knows them. */
  code?: string;
  born?: IsoDate;
  hired?: IsoDate;
  left?: IsoDate;
  /** How the employment ended, as the country tells it apart. */
  leavingKind?: string;
  /** How often they are paid. */
  frequency?: string;
  /** Their pay of the day as it left through a bank's file: from which bank to which, by which format. */
  transfer?: { format: string; from: string; to: string; amount: number; reference: string };
  /** Tax details as they stand at the end of the period, in the terms of the country. */
  details?: Readonly<Record<string, unknown>>;
}

/** Who files, and who signs. */
export interface Sender {
  name: string;
  /** By which the agency knows the employer. */
  number: string;
  address: PostalAddress;
  contact: { name: string; email: string; phone: string };
  /** Kind of employer, where the country's forms tell kinds apart; empty for an ordinary one. */
  kind: string;
  /** Registrations, in the terms of the country. */
  employer: Readonly<Record<string, unknown>>;
  /** Absent in a file that is only looked at. */
  signer?: { name: string; title: string; on: IsoDate };
  /** It takes the place of what was accepted before. */
  amends: boolean;
  /** Nothing of a later period has been sent of this filing. */
  latest: boolean;
  people: ReadonlyMap<string, Stated>;
  /** Whom the agency knows of them, by what was filed before. */
  known: ReadonlyMap<string, Pick<Stated, 'number' | 'givenName' | 'familyName'>>;
}

/** A registration that is a text; empty where it is missing. */
export const textOf = (facts: Readonly<Record<string, unknown>>, key: string): string => {
  const value = facts[key];
  return typeof value === 'string' ? value : '';
};
