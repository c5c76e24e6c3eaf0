import { expect, test, type Page } from '@playwright/test';
import { signIn } from './desk';
import { OwnServer } from './own-server';

test.describe.configure({ mode: 'serial' });

let server: OwnServer;
let page: Page;
test.beforeAll(async ({ browser }) => {
  server = await OwnServer.withDemo('woodruff_payments', 8487);
  page = await browser.newPage({ baseURL: server.address, acceptDownloads: true });
  await signIn(page, 'admin');
});
test.afterAll(async () => {
  await page.close();
  await server.stop();
});

const moveTo = async (date: string) => {
  server.sql(`update employers set business_date = '${date}' where demo`);
  await page.goto('/payments');
  await page.getByRole('button', { name: 'Ask the bank' }).click();
  await expect(page.getByRole('status')).toContainText('The bank has');
};

test('from an approved run to a released batch it is two clicks; the bank books it on its day', async () => {
  await page.getByRole('row').filter({ hasText: '16 – 30 Nov 2026, semimonthly' }).getByRole('button', { name: 'Start this run' }).click();
  await page.waitForURL('**/pay-runs/*');
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('button', { name: 'Prepare the payments' }).click();
  await page.waitForURL('**/payments/batches/*');
  await page.getByRole('button', { name: /^Release \d+ payments for Mon 30 Nov 2026/ }).click();
  await expect(page.getByText('paid Mon 30 Nov 2026, sent')).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'The file' }).click()]);
  expect(download.suggestedFilename()).toMatch(/^payments-\d+\.ach$/);
  await expect(page.getByRole('button', { name: /^Release/ })).toHaveCount(0);
  await moveTo('2026-12-01');
  const rung = page.getByRole('row').filter({ hasText: 'Mon 30 Nov 2026' }).filter({ hasText: 'net pay' });
  await expect(rung).toContainText('confirmed');
});

test('a deposit that came back is paid again to the corrected account, and arrives', async () => {
  const back = page.locator('wr-returned-payment').filter({ hasText: 'Penhallow' });
  await back.getByLabel('Why', { exact: true }).fill('New account by signed form');
  await back.getByRole('button', { name: 'Pay it again' }).click();
  await expect(back).toContainText('Correct it on the person’s page first');
  await back.getByRole('link', { name: 'Nils Penhallow' }).click();
  await page.locator('#payment').getByRole('button', { name: 'Change', exact: true }).click();
  await page.locator('#payment').getByLabel('Account number').fill('70441999');
  await page.locator('#payment').getByRole('button', { name: 'Pay this way from now on' }).click();
  await expect(page.locator('#payment')).toContainText('••••1999');
  await page.goto('/payments');
  await back.getByLabel('Why', { exact: true }).fill('New account by signed form');
  await back.getByRole('button', { name: 'Pay it again' }).click();
  await expect(back).toHaveCount(0);
  await page.getByRole('row').filter({ hasText: 'Paid again' }).getByRole('button', { name: 'Prepare the batch' }).click();
  await page.waitForURL('**/payments/batches/*');
  await page.getByRole('button', { name: /^Release/ }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Nils Penhallow' })).toContainText('sent');
  await moveTo('2026-12-04');
  await page.goto('/payments/tie-outs');
  await expect(page.getByText('every pair agrees, to the cent')).toBeVisible();
});

test('what is late is paid from the payee’s page, and leaves Today', async () => {
  await page.goto('/today');
  await page.getByRole('link', { name: 'Savings club, Quillmere Savings Club', exact: true }).first().click();
  await expect(page.getByRole('heading', { name: 'Quillmere Savings Club' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Pay what is due 2026-11-16' }).check();
  await page.locator('select[name="method"]').selectOption('elsewhere');
  await page.getByLabel('Reference there').fill('Transfer 4471');
  await page.getByRole('button', { name: 'Record 325.00' }).click();
  await expect(page.getByText('Recorded.')).toBeVisible();
  await expect(page.getByText('Transfer 4471')).toBeVisible();
});

test('a payment through the payee’s own service is confirmed and its receipt can be opened', async () => {
  await page.goto('/payments/payees/us.deposit');
  const due = page.getByRole('checkbox', { name: /^Pay what is due/ }).first();
  await due.check();
  await page.locator('select[name="method"]').selectOption('agency');
  await page.getByRole('button', { name: /^Pay [\d,.]+$/ }).click();
  await expect(page.getByRole('status')).toContainText(/Confirmation \d{15}/);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Confirmation' }).first().click()]);
  expect(download.suggestedFilename()).toMatch(/^confirmation-\d{15}\.txt$/);
});

test('the books: what a run posts, a month accrued, a tax by its notice, cost by day; every pair agrees', async () => {
  await page.goto('/pay-runs');
  await page
    .getByRole('link', { name: /16 – 30 Nov 2026/ })
    .first()
    .click();
  await page.waitForURL('**/pay-runs/*');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('link', { name: 'What it posts' }).click();
  await expect(page.getByRole('heading', { name: 'What the run posts' })).toBeVisible();
  const sums = page.getByRole('row').filter({ hasText: 'Together' }).getByRole('cell');
  expect(await sums.nth(3).innerText()).toBe(await sums.nth(4).innerText());

  await page.goto('/payments/accruals');
  await page.getByLabel('Accrued on').selectOption('2026-11-30');
  await page.getByRole('button', { name: /^Post it, and its reversal/ }).click();
  await expect(page.getByRole('status')).toContainText('It is in the journal');

  await page.goto('/payments/employer-taxes');
  await page.getByRole('button', { name: 'Federal unemployment, Nov' }).click();
  await page.getByLabel('It comes to').fill('99.00');
  await page.getByLabel('Why').fill('By the notice of the agency');
  await page.getByRole('button', { name: 'Enter the difference' }).click();
  await expect(page.getByRole('button', { name: 'Federal unemployment, Nov' })).toContainText('◇ 99.00');

  await page.goto('/payments/costs');
  await expect(page.getByRole('row').filter({ hasText: 'Hot shop' })).toBeVisible();
  await page.goto('/payments/tie-outs');
  await expect(page.getByText('every pair agrees, to the cent')).toBeVisible();
});

test('a second account pays the schedule that says so: its own batch, file and statement', async () => {
  await page.goto('/employer');
  await page.getByRole('button', { name: 'Add: Paying account' }).click();
  await page.getByLabel('Bank', { exact: true }).fill('Harbour Mutual');
  await page.getByLabel('Routing number').fill('011000015');
  await page.getByLabel('Account number').fill('88112233');
  await page.getByRole('button', { name: 'Pay from this account' }).click();
  await expect(page.getByText('••••2233')).toBeVisible();
  await page.getByRole('button', { name: 'Change Biweekly' }).click();
  await page.getByLabel('Paid from').selectOption({ label: 'Harbour Mutual ••••2233' });
  await page.getByRole('button', { name: 'Save the schedule' }).click();
  await expect(page.getByRole('button', { name: 'Save the schedule' })).toHaveCount(0);
  await page.goto('/payments/funding');
  await page.getByLabel('Account').selectOption({ label: 'Harbour Mutual, ending 2233' });
  await expect(page.getByRole('row').filter({ hasText: 'biweekly, as the last time' }).first()).toBeVisible();
});
