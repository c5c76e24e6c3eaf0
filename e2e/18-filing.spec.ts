import { expect, test, type Page } from '@playwright/test';
import { signIn } from './desk';
import { OwnServer } from './own-server';

test.describe.configure({ mode: 'serial' });

let server: OwnServer;
let page: Page;
test.beforeAll(async ({ browser }) => {
  server = await OwnServer.withDemo('woodruff_filing', 8488);
  server.sql(`update employers set business_date = '2027-01-05' where demo`);
  page = await browser.newPage({ baseURL: server.address, acceptDownloads: true });
  await signIn(page, 'admin');
});
test.afterAll(async () => {
  await page.close();
  await server.stop();
});

const act = async (name: string, end: string) => {
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: end, exact: true }).click();
};
const known = async (name: string) => {
  await page.goto('/agencies');
  await page.getByLabel('They know our number as').fill(name);
  await page.getByRole('button', { name: 'Set it' }).click();
  await expect(page.getByRole('status')).toHaveText('Set.');
};

test('a quarter is filed by file: rejected with its cause, corrected, accepted', async () => {
  await known('Another glassworks');
  await page.goto('/filings/941/2026-Q4');
  await page.getByRole('button', { name: 'Look at the file' }).click();
  await expect(page.getByRole('region', { name: 'The file as it would be now, not signed' })).toContainText('<TaxPeriodEndDt>2026-12-31');
  await page.getByRole('button', { name: 'Close' }).click();
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByRole('alert')).toContainText('NAME: the number 004417226 belongs to another name');
  await known('Quillmere Glassworks');
  await page.goto('/filings/941/2026-Q4');
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByText('accepted', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  await expect(page.getByRole('region', { name: 'The file as it was sent' })).toContainText('<TaxpayerPIN>40117');
});

test('a line is overridden with a reason that stays, and is as computed again', async () => {
  await page.goto('/filings/pa-1/2026-Q4');
  await page.getByRole('button', { name: 'Override line wages' }).click();
  await page.getByLabel('Line wages is').fill('50000.00');
  await page.getByLabel('Why').fill('Wages of the agency’s own count');
  await page.getByRole('button', { name: 'Override line wages' }).click();
  await expect(page.getByText('Wages of the agency’s own count')).toBeVisible();
  await page.getByRole('button', { name: 'Override line wages' }).click();
  await page.getByRole('button', { name: /^As computed again/ }).click();
  await expect(page.getByText('Wages of the agency’s own count')).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Wages by person' })).toBeVisible();
});
