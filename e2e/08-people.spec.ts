import { expect, test } from '@playwright/test';
import { openMonthEndRun, signIn } from './desk';

test('a group change is passed on: who follows and whose own value stays is seen before it is saved', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  await page.goto('/people/groups');
  await page.getByRole('button', { name: 'Change Salaried staff' }).click();
  await page.getByLabel('Value of item 1').fill('0.45');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('9 people take this over:')).toBeVisible();
  await expect(page.getByText("Workers' compensation 0.45% instead of 0.35%").first()).toBeVisible();
  await expect(page.getByText(/In the open runs this changes \d+ payslips/)).toBeVisible();
  await page.getByRole('button', { name: 'Save it for 9 people' }).click();
  await expect(page.getByText("Supplies Semimonthly, regular, Workers' compensation 0.45%.")).toBeVisible();

  // Somebody with a value of their own keeps it when the group goes back.
  await page.goto('/people');
  await page.getByText('Fennimore, Tobias').click();
  await page
    .locator('#items')
    .getByRole('row', { name: /Workers' compensation/ })
    .getByRole('button', { name: /Change/ })
    .click();
  await page.locator('#items').getByLabel('Percentage of').fill('0.5');
  await page.locator('#items').getByRole('button', { name: /^Save/ }).click();
  await expect(page.locator('#items').getByText('0.5% of gross pay')).toBeVisible();
  await page.goto('/people/groups');
  await page.getByRole('button', { name: 'Change Salaried staff' }).click();
  await page.getByLabel('Value of item 1').fill('0.35');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('8 people take this over:')).toBeVisible();
  await expect(page.getByText('One keeps a value of their own:')).toBeVisible();
  await page.getByRole('button', { name: 'Save it for 8 people' }).click();
  await expect(page.getByText("Supplies Semimonthly, regular, Workers' compensation 0.35%.")).toBeVisible();
});

test('somebody new is moved into a group and takes over what it supplies', async ({ page }) => {
  await signIn(page);
  await page.goto('/people/groups');
  await page.getByRole('button', { name: 'Move people to Cold shop, hourly' }).click();
  await page.getByLabel('Find', { exact: true }).fill('hart');
  await page.getByLabel('Hartnoll, Solveig').check();
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText(/department Cold shop instead of Hot shop; Union dues 18\.50/)).toBeVisible();
  await page.getByRole('button', { name: 'Move 1 person to Cold shop, hourly' }).click();
  await expect(page.getByRole('heading', { name: 'Cold shop, hourly' })).toContainText('5 people');
});

test('facts count from a day on: what is to come is shown and can be withdrawn, what was is told where it stands', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByText('Penhallow, Nils').click();
  await page.getByRole('button', { name: 'Change: Details' }).click();
  await page.getByLabel('Job', { exact: true }).fill('Cold worker, senior');
  await page.getByLabel('Counts from').fill('2026-11-02');
  await page.getByLabel('Reason', { exact: true }).fill('promoted');
  await page.getByRole('button', { name: 'Save details' }).click();
  await expect(page.getByText('since Mon 2 Nov 2026, before: Cold worker')).toBeVisible();
  await page.getByRole('button', { name: 'Change: Details' }).click();
  await page.getByLabel('Department').selectOption('Hot shop');
  await page.getByLabel('Counts from').fill('2027-01-01');
  await page.getByRole('button', { name: 'Save details' }).click();
  await expect(page.getByText('From Fri 1 Jan 2027: Department Hot shop')).toBeVisible();
  await page.getByRole('button', { name: 'Withdraw it' }).click();
  await expect(page.getByText('From Fri 1 Jan 2027')).toBeHidden();
});

test('an exemption with reason and end shows its effect on the open run before it is saved', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  await page.goto('/people');
  await page.getByText('Lindqvist, Casper').click();
  const part = page.locator('wr-person-standing-taxes');
  await part.getByRole('button', { name: 'Add one' }).click();
  await part.getByRole('combobox', { name: 'Tax', exact: true }).selectOption({ label: 'Federal income tax' });
  await part.getByLabel('Reason').fill('certificate of 20 November');
  await expect(part.getByText('In the open runs this changes 1 payslip')).toBeVisible();
  await part.getByLabel('Until').fill('2026-12-31');
  await part.getByRole('button', { name: 'Save the entry' }).click();
  await expect(part.getByRole('row', { name: /Federal income tax exempt/ })).toContainText('certificate of 20 November');
});

test('what an earlier system paid comes from a file: faults named, fixed, taken whole, and nothing the second time', async ({ page }) => {
  await signIn(page);
  await page.goto('/people/import');
  await page.getByRole('link', { name: 'What an earlier system paid them' }).click();
  const file = (name: string, rows: string[]) => ({
    name,
    mimeType: 'text/csv',
    buffer: Buffer.from(['Code,Paid until,Salary,Federal income tax,Social security,Medicare', ...rows].join('\n')),
  });
  const good = ['Q004,2025-12-31,4000.00,310.00,248.00,58.00', 'Q006,2025-12-31,6000.00,610.00,372.00,87.00'];
  await page.getByLabel('File of earlier pay').setInputFiles(file('bad.csv', [good[0]!, 'Q999,2025-12-31,1.00,0,0,0']));
  await expect(page.getByText('1 cell is not taken')).toBeVisible();
  await expect(page.getByRole('cell', { name: 'Nobody on file has this code. Add or import the people first.' })).toBeVisible();
  await page.getByLabel('File of earlier pay').setInputFiles(file('good.csv', good));
  await page.getByRole('button', { name: 'Post 2 entries' }).click();
  await expect(page.getByText('2 entries added, 0 changed, 0 as they were.')).toBeVisible();
  await page.getByLabel('File of earlier pay').setInputFiles(file('good.csv', good));
  await expect(page.getByText('0 new, 0 changed, 2 as they are.')).toBeVisible();
});
