import type { Role } from '@woodruff/contract';
import { packOf, type CountryPack } from '@woodruff/core';
import type { Database } from '../database/connection';

/** Facts of an employer that its country's pack and the screens use. */
export interface EmployerFacts {
  /** In the terms of the country's pack. */
  country: Record<string, unknown>;
  departments: string[];
  worksites: string[];
  address: { line1: string; city: string; state: string; postcode: string };
  signatory: { name: string; title: string };
  /** Whoever edited a run last may not approve it. */
  secondPersonApproves: boolean;
  depositor: 'monthly' | 'semiweekly';
}

export interface Employer {
  id: string;
  name: string;
  country: string;
  currency: string;
  today: string;
  demo: boolean;
  facts: EmployerFacts;
  factsVersion: number;
}

/** Within which employer, as whom, and with what right something is done. Every query of a service is bound to it. */
export interface Scope {
  database: Database;
  employer: Employer;
  user: { id: string; name: string };
  role: Role;
}

export const packFor = (scope: Scope): CountryPack => packOf(scope.employer.country);
