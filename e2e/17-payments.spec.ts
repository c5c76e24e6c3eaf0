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
