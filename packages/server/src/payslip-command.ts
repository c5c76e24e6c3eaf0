import { readFileSync } from 'node:fs';
import { payslipInputSchema } from '@woodruff/contract';
import { computePayslip, packOf, CannotCompute } from '@woodruff/core';

/** Prints the payslip of an input file with its workings as JSON. Exit code 2 for an input that is wrong. */
function main(file: string | undefined): void {
  if (!file) return wrong(['Give the file of the input: npm run --silent payslip -- input.json']);
  let content: unknown;
  try {
    content = JSON.parse(readFileSync(file === '-' ? 0 : file, 'utf8'));
  } catch (error) {
    return wrong([`${file} could not be read as JSON: ${(error as Error).message}`]);
  }
  const parsed = payslipInputSchema.safeParse(content);
  if (!parsed.success)
    return wrong(parsed.error.issues.map((issue) => `${issue.path.join('.') || '(the whole file)'}: expected ${issue.message}`));
  try {
    const pack = packOf(parsed.data.country);
    const issues = [
      ...(pack.taxSchema.safeParse(parsed.data.tax).error?.issues ?? []).map(
        (issue) => `tax.${issue.path.join('.')}: expected ${issue.message}`,
      ),
      ...(pack.employerSchema.safeParse(parsed.data.employer).error?.issues ?? []).map(
        (issue) => `employer.${issue.path.join('.')}: expected ${issue.message}`,
      ),
    ];
    if (issues.length) return wrong(issues);
  } catch (error) {
    if (error instanceof CannotCompute) return wrong([`country: ${error.message}`]);
    throw error;
  }
  process.stdout.write(`${JSON.stringify(computePayslip(parsed.data, { workings: true }), null, 2)}\n`);
}

function wrong(sentences: string[]): void {
  process.stderr.write(`${sentences.join('\n')}\n`);
  process.exitCode = 2;
}

main(process.argv[2]);
