import { expect, test } from '@playwright/test';
import { cell, PASSWORD, signIn, type } from './desk';

const openRun = async (page: import('@playwright/test').Page) => {
  await page.goto('/pay-runs');
  await page.getByRole('link', { name: '16 – 30 Nov 2026', exact: true }).click();
  await expect(page.locator('.ag-row').first()).toBeVisible();
};

test('a session that ended mid-edit: sign in over the page, and what was typed is saved', async ({ page }) => {
  await signIn(page);
  await openRun(page);
  await page.context().clearCookies();
  await type(page, 'Casper Lindqvist', 'one-offs', '120');
  const again = page.getByRole('dialog', { name: 'Sign in again' });
  await expect(again).toBeVisible();
  await again.getByLabel('E-mail').fill('clerk@quillmere.example');
  await again.getByLabel('Password').fill(PASSWORD);
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(again).toBeHidden();
  await expect(cell(page, 'Casper Lindqvist', 'one-offs')).toHaveText('120.00');
  await page.reload();
  await expect(cell(page, 'Casper Lindqvist', 'one-offs')).toHaveText('120.00');
});

test('two clerks on one payslip: the second learns what the first changed', async ({ browser }) => {
  const [first, second] = [await browser.newPage(), await browser.newPage()];
  await signIn(first);
  await signIn(second, 'admin');
  await openRun(first);
  await openRun(second);
  await type(first, 'Odile Marchetti', 'one-offs', '200');
  await expect(cell(first, 'Odile Marchetti', 'one-offs')).toHaveText('200.00');
  await type(second, 'Odile Marchetti', 'one-offs', '300');
  await expect(second.getByRole('alert')).toContainText('Somebody else changed this payslip');
  await expect(second.getByRole('alert')).toContainText('Odile Marchetti: bonus of 200.00');
  await first.close();
  await second.close();
});

test('another employer’s id in the address shows nothing', async ({ page }) => {
  await signIn(page);
  const answer = await page.request.get('/api/employers/00000000-0000-4000-8000-000000000000/people');
  expect(answer.status()).toBe(404);
  await page.goto('/pay-runs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByRole('alert')).toContainText('There is no such pay run');
  await page.goto('/people/00000000-0000-4000-8000-000000000000');
  await expect(page.getByRole('alert')).toContainText('There is no such person');
});

test('a CSV with a broken row is told by row and column, and nothing is entered', async ({ page }) => {
  await signIn(page);
  await openRun(page);
  await page
    .getByLabel('CSV file with hours')
    .setInputFiles({ name: 'hours.csv', mimeType: 'text/csv', buffer: Buffer.from('code,item,hours\nQ003,overtime,two\n') });
  await expect(page.getByRole('alert')).toContainText(
    'Nothing was entered: one cell is wrong. First: row 2, hours “two”, expected hours in figures',
  );
});
