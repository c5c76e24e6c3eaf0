import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { cell, openWaitingRun, panel, signIn } from './desk';

// With PICTURES=1 the main views are kept for docs/screenshots; they are taken from the fresh demo, so this file runs first.
/** Without a name no picture is kept. */
async function lookAt(page: Page, picture: string): Promise<void> {
  await page.waitForTimeout(400);
  if (process.env['PICTURES'] && picture)
    await page.screenshot({ path: new URL(`../docs/screenshots/${picture}.png`, import.meta.url).pathname });
  // Only parts of a page scroll, never the window.
  expect(
    await page.evaluate(() => [document.documentElement.scrollHeight - innerHeight, document.documentElement.scrollWidth - innerWidth]),
  ).toEqual([0, 0]);
  const { violations } = await new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).analyze();
  const serious = violations.filter((violation) => violation.impact === 'serious' || violation.impact === 'critical');
  expect(serious.map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.target.join(' ')).join(', ')}`)).toEqual([]);
}

test('sign in can be used by everybody', async ({ page }) => {
  await page.goto('/sign-in');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await lookAt(page, '');
});

const views: [name: string, path: string, heading: string][] = [
  ['today', '/today', 'Mon 23 Nov 2026'],
  ['people', '/people', 'People'],
  ['', '/pay-items', 'Pay items'],
  ['', '/pay-items/ready', 'Standard items'],
  ['', '/people/groups', 'Groups'],
  ['time', '/time', 'Time'],
  ['leave', '/time/leave', 'Leave'],
  ['', '/time/leave/plans', 'Leave plans'],
  ['', '/time/clock', 'Time clock'],
  ['', '/pay-runs/one-offs', 'One-offs'],
  ['', '/pay-runs/special', 'Special run'],
  ['', '/outbox', 'Outbox'],
  ['', '/people/import/earlier-pay', 'Import earlier pay'],
  ['employer', '/employer', 'Quillmere Glassworks'],
  ['', '/pay-runs', 'Pay runs'],
  ['payments', '/payments', 'Payments'],
  ['', '/payments/payees', 'Payees'],
  ['', '/payments/cheques', 'Checks'],
  ['', '/payments/funding', 'Funding'],
  ['', '/payments/journal', 'Journal'],
  ['', '/payments/accounts', 'Where it is posted'],
  ['', '/payments/tie-outs', 'Tie-outs'],
  ['', '/payments/accruals', 'Month’s end'],
  ['', '/payments/costs', 'Cost by day worked'],
  ['', '/payments/employer-taxes', 'Employer taxes'],
  ['', '/payments/bank', 'Bank'],
  ['', '/payments/payees/us.deposit', 'United States Treasury'],
  ['return', '/filings/941/2026-Q3', 'Form 941, quarter 3 of 2026'],
  ['year-end', '/filings/w-2/2026', 'Form W-2, 2026'],
  ['year-plan', '/filings/year/2026', 'Year end 2026'],
  ['', '/filings/year/2026/boxes', 'Items and boxes, 2026'],
  ['', '/filings/year/2026/reconcile', 'Reconciliation, 2026'],
  ['', '/filings/tables', 'Tables'],
  ['look-up', '/filings/tables/scales', 'Withholding look-up'],
];

test.describe('Pages', () => {
  // One browser goes through them all, as a clerk's does.
  let page: Page;
  test.beforeAll(async ({ browser }) => {
    const context = await browser.newContext();
    page = await context.newPage();
    await signIn(page);
  });
  test.afterAll(() => page.context().close());

  for (const [picture, path, heading] of views)
    test(`${heading} can be used by everybody`, async () => {
      await page.goto(path);
      await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
      await lookAt(page, picture);
    });
});

test('a person and an item can be used by everybody', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.locator('.ag-row').filter({ hasText: 'Halloway, Ines' }).click();
  await expect(page.getByRole('heading', { name: 'Ines Halloway' })).toBeVisible();
  await lookAt(page, 'person');
  await page.getByRole('button', { name: 'New details' }).click();
  await page.getByLabel('Extra withholding').fill('40');
  await page.getByRole('button', { name: 'Federal income tax', exact: true }).click();
  await expect(page.getByText('Extra withholding asked for')).toBeVisible();
  await page.locator('#tax-details').evaluate((part) => part.scrollIntoView());
  await lookAt(page, '');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('link', { name: 'Retirement deferral', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Assigned to' })).toBeVisible();
  await lookAt(page, 'pay-item');
  await page.getByRole('button', { name: 'Change: How it works' }).click();
  await lookAt(page, '');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: /Give, change or end it/ }).click();
  await expect(page.locator('.ag-row').first()).toBeVisible();
  await lookAt(page, '');
});

test('a file of people to look at can be used by everybody', async ({ page }) => {
  await signIn(page);
  await page.goto('/people/import');
  const joiners =
    'Employee number,First name,Last name,Start date,Dept,Pay schedule,Rate,Per\nF1,Lucinda,Harrowgate,11/30/2026,Gallery,Biweekly,21.50,hour\nF2,Osbert,Pyne,30.11.2026,Foundry,Biweekly,zero,hour\n';
  await page.getByLabel('File of people').setInputFiles({ name: 'joiners.csv', mimeType: 'text/csv', buffer: Buffer.from(joiners) });
  await expect(page.getByText('3 cells are not taken')).toBeVisible();
  await lookAt(page, '');
});

test('the sheet, a payslip, a working and the differences can be used by everybody', async ({ page }) => {
  await signIn(page);
  await openWaitingRun(page);
  await lookAt(page, 'sheet');
  await cell(page, 'Dario Culverhouse', 'person').click();
  await expect(panel(page).getByRole('heading', { name: /Dario Culverhouse/ })).toBeVisible();
  await lookAt(page, 'payslip');
  await cell(page, 'Ines Halloway', 'taxes').click();
  await panel(page).getByRole('button', { name: 'Federal income tax ›' }).click();
  await expect(panel(page).getByText('Rounded to the cent once')).toBeVisible();
  await lookAt(page, 'working');
  await page.getByRole('button', { name: 'Why it differs' }).click();
  await expect(page.getByText('Person by person, largest first')).toBeVisible();
  await lookAt(page, 'differences');
  await page.getByRole('button', { name: /^Open points/ }).click();
  await expect(page.getByText('No hours yet.').first()).toBeVisible();
  await lookAt(page, '');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Review', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^Compared with the run paid/ })).toBeVisible();
  await lookAt(page, 'review');
});

test('a batch can be used by everybody', async ({ page }) => {
  await signIn(page);
  await page.goto('/payments');
  await page
    .getByRole('link', { name: /^Batch \d+, net pay/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: /^Batch \d+$/ })).toBeVisible();
  await lookAt(page, '');
});

test('the keys of a page are listed, lead to sections, and move along the dateline', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('F1');
  await expect(page.getByRole('dialog', { name: 'Keys of this page' })).toContainText('Go to Pay runs');
  await page.keyboard.press('F1');
  await page.keyboard.press('g');
  await page.keyboard.press('p');
  await page.waitForURL('**/people');
  const today = page.locator('wr-dateline text', { hasText: 'today' });
  const before = (await today.boundingBox())!.x;
  await page.keyboard.press(']');
  await expect.poll(async () => (await today.boundingBox())!.x).toBeLessThan(before - 100);
  await page.keyboard.press('/');
  await page.keyboard.type('hallo');
  await expect(page.getByRole('option', { name: /Ines Halloway/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.waitForURL('**/people/*');
});
