import type { AnyRole, EmployerFacts, Right } from '@woodruff/contract';

export type { EmployerFacts };
import { packOf, type CountryPack } from '@woodruff/core';
import type { Database } from './database/connection';

export interface Employer {
  id: string;
  name: string;
  country: string;
  currency: string;
  today: string;
  demo: boolean;
  /** The demo is still at it: nobody else works there meanwhile. */
  beingPlayed: boolean;
  facts: EmployerFacts;
  factsVersion: number;
}

/** Within which employer, as whom, and with what right something is done. Every query of a service is bound to it. */
export interface Scope {
  database: Database;
  employer: Employer;
  user: { id: string; name: string };
  role: AnyRole;
  /** Given singly in place of the role's; null for the ready set. */
  rights: readonly Right[] | null;
  /** A second person confirms what is done, or what is done is only tried before they are asked. */
  secondPerson?: true;
  /** Of an employee: who they are among the people. */
  personId: string | null;
}

/** Bank holidays of the country, those of a worksite's place where one is meant, and the employer's own days. */
export const holidaysOf = (scope: Scope, worksite = ''): ((date: string) => boolean) => {
  const { country, facts } = scope.employer;
  const pack = packOf(country);
  const own = new Set((facts.holidays ?? []).map((holiday) => holiday.date));
  const state = worksite && facts.worksites.find(({ name }) => name === worksite)?.state;
  const place = state ? `${country}-${state}` : undefined;
  return (date) => own.has(date) || pack.isHoliday(date, place);
};

export const packFor = (scope: Scope): CountryPack => packOf(scope.employer.country);
