import type { TaxContext } from '../country-pack';
import type { AuEmployer } from './employer';
import type { AuTax } from './facts';

/** What a tax of this country may ask of the payslip in the making. */
export type Context = TaxContext<AuTax, AuEmployer>;
