import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { cell, panel, signIn, type } from './desk';

const cents = (text: string | null) => Math.round(Number((text ?? '').replace('−', '-').replace(/,/g, '')) * 100);

test('a reversal with replacement: what it touches first, then year to date and the return follow', async ({ page }) => {
  await signIn(page);
  const wages = async () => {
    await page.goto('/filings/941/2026-Q4');
    return cents(
      await page.getByRole('row').filter({ hasText: 'Wages, tips and other compensation' }).getByRole('button').first().textContent(),
    );
  };
  const before = await wages();
  await page.goto('/pay-runs');
  await page.getByRole('row').filter({ hasText: 'Fri 13 Nov 2026' }).getByRole('link', { name: '25 Oct – 7 Nov 2026' }).click();
  await cell(page, 'Ulla Wetherell', 'person').click();
  await panel(page).getByRole('button', { name: 'Reverse this payslip …' }).click();
  await expect(panel(page)).toContainText('What it touches');
  await expect(panel(page).getByRole('row', { name: /Gross pay in 2026/ })).toBeVisible();
  await panel(page).getByLabel('Reason').fill('eight hours too many');
  await panel(page).getByRole('button', { name: 'Reverse payslip', exact: true }).click();
  await expect(page.getByText('correction, paid Mon 23 Nov 2026, 1 person')).toBeVisible();
  const was = cents(await cell(page, 'Ulla Wetherell', 'gross').textContent());
  await type(page, 'Ulla Wetherell', 'hours ordinary', '60');
  await expect.poll(async () => cents(await cell(page, 'Ulla Wetherell', 'gross').textContent())).not.toBe(was);
  const is = cents(await cell(page, 'Ulla Wetherell', 'gross').textContent());
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(page.getByRole('contentinfo')).toContainText('Posted');
  // 6% of the pay is deferred and does not count for box 1 and line 2.
  expect((await wages()) - before).toBe(Math.round((is - was) * 0.94));
  await expect(page.getByText('Does not hold')).toHaveCount(0);
});

test('a line of the return opens to the payslips behind it and their workings', async ({ page }) => {
  await signIn(page);
  await page.goto('/filings/941/2026-Q3');
  await page.getByRole('row').filter({ hasText: 'Federal income tax withheld' }).getByRole('button').first().click();
  await panel(page).getByRole('button', { name: 'Aurelia Quillmere ›' }).first().click();
  await expect(panel(page)).toContainText('Standard schedule, married jointly');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Print a working copy (PDF)' }).click(),
  ]);
  expect(
    readFileSync(await download.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
});

test('a box of a wage statement opens to its payslips; statements are checked and printed', async ({ page }) => {
  await signIn(page);
  await page.goto('/filings/w-2/2026');
  await expect(page.getByText('Does not hold')).toHaveCount(0);
  await page.getByRole('row').filter({ hasText: 'Quillmere, Aurelia' }).getByRole('button').nth(3).click();
  await expect(panel(page).getByRole('heading', { name: /Box 3, Quillmere, Aurelia/ })).toBeVisible();
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export' }).click()]);
  expect(readFileSync(await csv.path()).toString()).toContain('Box 12 D');
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Draft print of all (PDF)' }).click()]);
  expect(readFileSync(await pdf.path()).length).toBeGreaterThan(20_000);
});

test('a return filed is accepted; a later correction shows what differs, and is prepared, agreed to and filed', async ({ page }) => {
  await signIn(page);
  await page.goto('/filings');
  await page.getByRole('link', { name: 'Form 941, quarter 3 of 2026', exact: true }).click();
  await expect(page.getByText('sent, no answer yet')).toBeVisible();
  await page.getByRole('button', { name: 'Record the answer …' }).click();
  await page.getByRole('button', { name: 'Record the answer', exact: true }).click();
  await expect(page.getByText('accepted by Odile Marchetti')).toBeVisible();
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'PDF as prepared' }).click()]);
  expect(readFileSync(await pdf.path()).length).toBeGreaterThan(5_000);

  await page.goto('/filings/941/2026-Q2');
  await expect(page.getByText('accepted by Odile Marchetti')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Prepare …' })).toHaveCount(0);
  await page.goto('/pay-runs');
  await page.getByRole('row').filter({ hasText: 'Tue 30 Jun 2026' }).getByRole('link').first().click();
  await cell(page, 'Lucian Abernethy', 'person').click();
  await panel(page).getByRole('button', { name: 'Reverse this payslip …' }).click();
  await panel(page).getByLabel('Reason').fill('was on unpaid leave');
  await panel(page).getByRole('checkbox').uncheck();
  await panel(page).getByRole('button', { name: 'Reverse payslip', exact: true }).click();
  await expect(panel(page)).toContainText('Reversed');
  await page.goto('/filings');
  await expect(page.getByRole('row', { name: /Form 941, quarter 2 of 2026/ })).toContainText('lines differ from what was filed');
  await page.getByRole('link', { name: 'Form 941, quarter 2 of 2026' }).click();
  await page.getByRole('button', { name: 'Prepare …' }).click();
  await expect(page.getByLabel('Why it differs')).toHaveValue(/Lucian Abernethy .* was on unpaid leave/);
  await page.getByLabel('Why it differs').fill('Paid for a time of unpaid leave');
  await page.getByRole('button', { name: 'Prepare it' }).click();
  await expect(page.getByText('prepared, to agree to')).toBeVisible();
  await page.getByRole('button', { name: 'Agree …' }).click();
  await expect(page.locator('form').getByText('To the best of my knowledge and belief')).toBeVisible();
  await page.getByRole('button', { name: 'I agree' }).click();
  await page.getByRole('button', { name: 'File …' }).click();
  await page.locator('select[name="how"]').selectOption('portal');
  await page.getByLabel('Confirmation number').fill('Q2-0417');
  await page.getByRole('button', { name: 'Record as filed', exact: true }).click();
  await expect(page.getByText('sent, no answer yet')).toBeVisible();
  await expect(page.getByText('not as filed')).toHaveCount(0);
});
