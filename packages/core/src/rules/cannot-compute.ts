/** Thrown when a payslip cannot be calculated at all: no table for the date, a place without rules, a fact missing. */
export class CannotCompute extends Error {
  constructor(
    readonly code: string,
    sentence: string,
  ) {
    super(sentence);
  }
}
