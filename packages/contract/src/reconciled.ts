import { z } from 'zod';
import { id, minor } from './values';

const sums = {
  /** What payslips that count in the year say, reversals taken off. */
  register: minor,
  /** Carried in from before this system, and changed by hand without payment. */
  opening: minor,
  adjusted: minor,
  /** What stands in the ledger in all. */
  ledger: minor,
  /** What neither of the others explains. */
  unexplained: minor,
};

/** A tax year reconciled: the register by pay item, and the ledger that statements are made from. */
export const yearReconciledSchema = z.object({
  year: z.string(),
  /** Hours of leave are in hundredths, as money is. */
  codes: z.array(z.object({ code: z.string(), label: z.string(), kind: z.string(), ...sums })),
  /** Of one code, everybody who has it. */
  people: z.array(z.object({ personId: id, name: z.string(), ...sums })),
});
export type YearReconciled = z.infer<typeof yearReconciledSchema>;
