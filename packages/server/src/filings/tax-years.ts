import type { CountryPack } from '@woodruff/core';
import { notFound } from '../errors';

/** A tax year of a country. */
export interface TaxYear {
  label: string;
  from: string;
  to: string;
}

/** A tax year by its label, as it is written in the country. */
export function yearCalled(pack: CountryPack, label: string): TaxYear {
  const start = Number(label.slice(0, 4));
  if (!Number.isInteger(start) || start < 2000 || start > 2100) throw notFound('tax year');
  const found = [`${start}-01-01`, `${start}-12-31`].map((date) => pack.taxYearOf(date)).find((one) => one.label === label);
  if (!found) throw notFound('tax year');
  return found;
}
