import type { AuEmployer } from './employer';

type Fund = AuEmployer['funds'][string];

/** The fund of somebody, by the tax details: their own, or the default fund; with the code by which it is known. */
export function fundOf(
  details: Readonly<Record<string, unknown>>,
  employer: Readonly<Record<string, unknown>>,
): { code: string; fund?: Fund } {
  const own = details['fundChoice'] === 'chosen' || details['fundChoice'] === 'stapled' ? details['fund'] : employer['defaultFund'];
  const code = typeof own === 'string' ? own : '';
  const funds = (employer['funds'] ?? {}) as Record<string, Fund | undefined>;
  const fund = funds[code];
  return { code, ...(fund ? { fund } : {}) };
}
