import { expect, test, type Page } from '@playwright/test';
import { signIn } from './desk';

/** The demo's employer in Wales and Scotland. */
async function weavers(page: Page): Promise<void> {
  await signIn(page);
  await page.getByRole('button', { name: /^Employer/ }).click();
  await page.getByText('Rhoslan Weavers').click();
  await expect(page.getByRole('button', { name: 'Employer: Rhoslan Weavers' })).toBeVisible();
}
const person = async (page: Page, name: string) => {
  await page.goto('/people');
  await page.getByText(name).click();
  return page.locator('wr-person-leave-by-law');
};

test('every pay day is reported, and the summary says what is taken off', async ({ page }) => {
  await weavers(page);
  await page.goto('/filings/fps/2026-11-20');
  await expect(page.getByText('Huw Pugh').or(page.getByText('Pugh, Huw')).first()).toBeVisible();
  await page.goto('/filings');
  await expect(page.getByRole('heading', { name: /Full payment submission/ })).toBeVisible();
  await page.goto('/payments/employer-taxes');
  await expect(page.getByRole('row', { name: /Employment allowance.*−10,500\.00/ }).first()).toBeVisible();
});

test('sickness is tested by the law before it is on file, paid by the week, and taken back', async ({ page }) => {
  await weavers(page);
  const leave = await person(page, 'Baird, Eilidh');
  await leave.getByRole('button', { name: 'Enter a leave' }).click();
  await leave.getByLabel('First day').fill('2026-11-02');
  await leave.getByLabel('Last day').fill('2026-11-10');
  await leave.getByRole('button', { name: 'See what the law says' }).click();
  // 123.25 and two fifths of it.
  await expect(leave.getByRole('row', { name: /Together.*172\.55/ })).toBeVisible();
  await leave.getByRole('button', { name: 'Put it on file and pay it' }).click();
  await expect(leave.getByText('paid 0.00, 172.55 waits for the runs to come')).toBeVisible();
  await leave.getByRole('button', { name: 'Change', exact: true }).click();
  await leave.getByLabel('Why it is taken back').fill('entered for somebody else');
  await leave.getByRole('button', { name: 'Take the leave back' }).click();
  await expect(leave.getByText('taken back: entered for somebody else')).toBeVisible();
});

test('maternity pay is six weeks of 90 per cent and the weekly rate after them, each week open to its working', async ({ page }) => {
  await weavers(page);
  const leave = await person(page, 'Tudor, Mared');
  await leave.getByRole('button', { name: 'Tests and weeks' }).click();
  await expect(leave.getByText('The maternity certificate is on file')).toBeVisible();
  await leave.getByRole('button', { name: 'week 1 of 39, how it came about' }).click();
  await leave.getByRole('button', { name: /90 per cent of average weekly earnings/ }).click();
  await leave.getByRole('button', { name: /Average weekly earnings/ }).click();
  await expect(leave.getByText(/Earnings paid in/)).toBeVisible();
});

test('the year that is over has its certificates, without those who left in it', async ({ page }) => {
  await weavers(page);
  await page.goto('/filings/p60/2025-26');
  await expect(page.getByText(/Prosser/).first()).toBeVisible();
  await expect(page.getByText(/Harries/)).toHaveCount(0);
});

test('workplace pensions say who is to be enrolled by when, and the notices of the agency whose code changes', async ({ page }) => {
  await weavers(page);
  await page.goto('/people/enrolment');
  await expect(page.getByRole('row', { name: /Lewis, Sioned.*Enrol, postpone or exempt/ })).toBeVisible();
  await expect(page.getByText('Opted out on 6 May 2025')).toBeVisible();
  if (process.env['PICTURES']) await page.screenshot({ path: new URL('../docs/screenshots/pensions.png', import.meta.url).pathname });
  await page.goto('/people/notices');
  await page.getByRole('button', { name: 'Fetch from the agency' }).click();
  await expect(page.getByRole('row', { name: /Enfys, Carys.*tax code C1257L, week 1/ })).toBeVisible();
  await expect(page.getByText('nobody on file has this number')).toBeVisible();
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Use 2 notices' }).click();
  await expect(page.getByText('used before').first()).toBeVisible();
});
