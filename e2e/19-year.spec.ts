import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { cell, panel, signIn } from './desk';
import { OwnServer } from './own-server';

test.describe.configure({ mode: 'serial' });

let server: OwnServer;
let page: Page;
test.beforeAll(async ({ browser }) => {
  server = await OwnServer.withDemo('woodruff_year', 8486);
  server.sql(`update employers set business_date = '2026-12-14' where demo`);
  // Tables are approved by somebody else than who has loaded them.
  server.sql(
    `update memberships set role = 'administrator' where user_id = (select id from users where email = 'approver@quillmere.example')`,
  );
  page = await browser.newPage({ baseURL: server.address, acceptDownloads: true });
  await signIn(page, 'admin');
  await lampWorks(page);
});
test.afterAll(async () => {
  await page.close();
  await server.stop();
});

const lampWorks = async (on: Page) => {
  await on.getByRole('button', { name: /^Employer/ }).click();
  await on.getByText('Tamarind Lamp Works').click();
  await expect(on.getByRole('button', { name: 'Employer: Tamarind Lamp Works' })).toBeVisible();
};
const act = async (name: string, end: string) => {
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: end, exact: true }).click();
};
const filed = async () => {
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
};

test('the tables of the new year are loaded, compared, approved by somebody else, and its first run is reckoned', async ({ browser }) => {
  await page.goto('/filings/tables');
  await expect(page.getByText('tables have no figures of 2027 yet')).toBeVisible();
  const address = await page.getByRole('link', { name: 'Export as a file' }).getAttribute('href');
  const of2026 = JSON.parse(await (await page.request.get(address!)).text()) as {
    entries: { code: string; from: string; to?: string; value?: string; confirmed: boolean }[];
  };
  await page.getByLabel('Load a file …').setInputFiles({
    name: 'tables.json',
    mimeType: 'application/json',
    buffer: Buffer.from('not a file of tables'),
  });
  await expect(page.getByText('The file is not JSON as it is exported here.')).toBeVisible();
  const of2027 = {
    ...of2026,
    title: 'Tables of 2027, for trying out',
    entries: of2026.entries.map((entry) => ({
      ...entry,
      from: '2027-01-01',
      to: '2027-12-31',
      confirmed: false,
      ...(entry.code === 'us.oasdi.rate' ? { value: '6.3' } : {}),
    })),
  };
  await page.getByLabel('Load a file …').setInputFiles({
    name: 'tables.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(of2027)),
  });
  const row = (on: Page) => on.getByRole('row', { name: /Tables of 2027, for trying out/ });
  await expect(row(page)).toContainText('to be approved');
  await expect(row(page).getByRole('button', { name: 'Approve' })).toHaveCount(0);
  const other = await browser.newPage({ baseURL: server.address });
  await signIn(other, 'approver');
  await lampWorks(other);
  await other.goto('/filings/tables');
  await row(other).getByRole('button', { name: 'Approve' }).click();
  await expect(row(other)).toContainText('approved by Tobias Fennimore');
  await row(other).getByRole('button', { name: 'What it changes' }).click();
  await expect(other.getByRole('heading', { name: /beside/ })).toBeVisible();
  await other.close();
  await server.signIn('clerk', 'Tamarind Lamp Works');
  const schedule = server.sql(
    `select s.id from pay_schedules s join employers e on e.id = s.employer_id where e.name = 'Tamarind Lamp Works'`,
  );
  const started = await server.send('POST', 'pay-runs', {
    scheduleId: schedule,
    from: '2027-01-01',
    to: '2027-01-31',
    payDate: '2027-01-29',
  });
  expect(started.status).toBe(200);
  const { id } = started.body as { id: string };
  await page.goto(`/pay-runs/${id}`);
  await expect(cell(page, 'Jory Wickham', 'gross')).toContainText('5,200.00');
  // 5,200.00 × 6.3% is 327.60.
  await cell(page, 'Jory Wickham', 'taxes').click();
  await expect(panel(page)).toContainText('327.60');
});

test('the plan leads to what is missing, and says so when it is there', async () => {
  server.sql(`update employers set business_date = '2027-01-11' where demo`);
  await page.goto('/filings/year/2026');
  await expect(page.getByText('a past year: you are in 2027')).toBeVisible();
  const missing = page.locator('p').filter({ hasText: 'Castor, Fenn has no social security number on file' });
  await missing.getByRole('link', { name: 'Go to the person' }).click();
  await page.getByRole('button', { name: 'Enter it' }).first().click();
  await page.getByLabel('Social security number').fill('213-60-9304');
  await page.getByRole('button', { name: 'Save the number' }).click();
  await expect(page.getByText('•••-••-9304')).toBeVisible();
  await page.goto('/filings/year/2026');
  await expect(page.getByRole('heading', { name: 'Year end 2026' })).toBeVisible();
  await expect(missing).toHaveCount(0);
  await expect(page.getByRole('row', { name: /Form W-2 given to people/ })).toContainText('A draft; nothing is final.');
});

test('an item is put into a box, and statements have it', async () => {
  await page.goto('/filings/year/2026/boxes');
  await page.getByLabel('Box of Tool fund').selectOption({ label: '14 Other' });
  await page.getByLabel('Words beside the amount').fill('TOOLS');
  await page.getByRole('button', { name: 'Put it there' }).click();
  await expect(page.getByText('“TOOLS”')).toBeVisible();
  await page.goto('/filings/w-2/2026');
  await expect(page.getByRole('row', { name: /14 TOOLS/ })).toBeVisible();
});

test('statements are drafted, made final, filed, given, and corrected after that', async () => {
  await page.goto('/filings/w-2/2026');
  await expect(page.getByText('Drafts can be printed at any time.')).toBeVisible();
  await act('Prepare …', 'Prepare it');
  await expect(page.getByText('prepared, to agree to')).toBeVisible();
  await page.getByRole('button', { name: /^Give 1 to their own view/ }).click();
  await page.getByRole('button', { name: /as handed over on paper/ }).click();
  await expect(page.getByText('5 of 5')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Print all (PDF)' }).click();
  expect(
    readFileSync(await (await download).path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  await filed();
  await expect(page.getByText('accepted', { exact: true }).first()).toBeVisible();
  await page.goto('/pay-runs');
  await page.getByRole('row').filter({ hasText: 'Fri 30 Oct 2026' }).getByRole('link').first().click();
  await cell(page, 'Ottilie Brandreth', 'person').click();
  await panel(page).getByRole('button', { name: 'Reverse this payslip …' }).click();
  await panel(page).getByLabel('Reason').fill('was on unpaid leave');
  await panel(page).getByRole('checkbox').uncheck();
  await panel(page).getByRole('button', { name: 'Reverse payslip', exact: true }).click();
  await expect(panel(page)).toContainText('Reversed');
  await page.goto('/filings/w-2/2026');
  await expect(page.getByText('Form W-2c for 1 person, once it is prepared.')).toBeVisible();
  await page.getByRole('button', { name: 'Prepare …' }).click();
  await page.getByLabel('Why it differs').fill('Paid for a time of unpaid leave');
  await page.getByRole('button', { name: 'Prepare it' }).click();
  await filed();
  await expect(page.getByText('amended, accepted').first()).toBeVisible();
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  await expect(page.getByRole('region', { name: 'The file as it was sent' })).toContainText('BRANDRETH');
});

test('contractors have their statements: work on one form, rent on the other', async () => {
  for (const [form, amount] of [
    ['1099-nec', '10,200.00'],
    ['1099-misc', '3,600.00'],
  ]) {
    await page.goto(`/filings/${form}/2025`);
    await expect(page.getByRole('row', { name: /Falkenrath, Lorenz/ }).first()).toContainText(amount!);
    await expect(page.getByText('accepted', { exact: true }).first()).toBeVisible();
  }
});
