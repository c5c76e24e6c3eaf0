import { expect, type Locator, type Page } from '@playwright/test';

export const PASSWORD = 'glasshouse-26';

export async function signIn(page: Page, who: 'clerk' | 'approver' | 'viewer' | 'admin' = 'clerk'): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(`${who}@quillmere.example`);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/today');
}

/** Opens a run from Today, starting it if nobody has. */
async function openRunOf(page: Page, period: string): Promise<void> {
  await page.goto('/today');
  const row = page.getByRole('row').filter({ hasText: period });
  await row
    .getByRole('button', { name: 'Start this run' })
    .or(row.getByRole('link', { name: 'Go on with it' }))
    .click();
  await page.waitForURL('**/pay-runs/*');
  await expect(page.locator('.ag-row').first()).toBeVisible({ timeout: 20_000 });
}

/** The biweekly run that is waiting; one of the tests approves it. */
export const openWaitingRun = (page: Page): Promise<void> => openRunOf(page, '8 – 21 Nov 2026, biweekly');

/** The run of those paid twice a month, which no test approves. */
export const openMonthEndRun = (page: Page): Promise<void> => openRunOf(page, '16 – 30 Nov 2026, semimonthly');

/** Sheets are in the order of family names, which come first there. */
const listed = (person: string): string => (person.includes(',') ? person : person.replace(/^(\S+) (.+)$/, '$2, $1'));

export const cell = (page: Page, person: string, column: string): Locator =>
  page
    .locator('.ag-row')
    .filter({ hasText: listed(person) })
    .locator(`[col-id="${column}"]`);

/** Types into a cell as a clerk does: click it, type, Enter. */
export async function type(page: Page, person: string, column: string, text: string): Promise<void> {
  await cell(page, person, column).click();
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

export const panel = (page: Page): Locator => page.getByRole('complementary', { name: 'Working' });

/** Open points are looked at, each with a reason; those that say the same go together. */
export async function acceptAll(page: Page): Promise<void> {
  const open = page.getByRole('button', { name: 'Accept with a reason' });
  // There may be none; and the list comes anew once some of it was accepted.
  const next = () =>
    open
      .first()
      .click({ timeout: 3000 })
      .then(
        () => true,
        () => false,
      );
  while (await next()) {
    await page
      .getByLabel(/reason/i)
      .last()
      .fill('Looked at, as expected');
    const answered = page.waitForResponse((response) => response.request().method() !== 'GET' && response.url().includes('/api/'));
    await page.getByRole('button', { name: /^Accept (it|\d+)$/ }).click();
    await answered;
    await expect(page.locator('form.accept')).toHaveCount(0);
  }
}

export async function approveRun(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(page.getByText('Posted', { exact: true })).toBeVisible();
}

interface FromNothing {
  schedule: { daysToPay: string };
  account: { bank: string; code: string; codeLabel: string };
  item: string;
  person: { code: string; givenNames: string; familyName: string; hours: string; born?: string };
  rate: string;
}

/** What an employer without anything is asked for, up to the person's tax details: a weekly schedule, an account, an item, somebody to pay. */
export async function setUpFromNothing(page: Page, { schedule, account, item, person, rate }: FromNothing): Promise<void> {
  await page.goto('/employer');
  await page.getByRole('button', { name: 'No pay schedule' }).click();
  await page.getByLabel('Name').fill('Weekly');
  await page.getByRole('combobox', { name: /^Paid/ }).selectOption({ label: 'Weekly' });
  await page.getByLabel('A period begins on').fill('2026-11-16');
  await page.getByLabel('Paid so many days after').fill(schedule.daysToPay);
  await page.getByRole('button', { name: 'Save the schedule' }).click();
  await expect(page.getByRole('button', { name: 'No pay schedule' })).toBeHidden();

  await page.getByRole('button', { name: 'No account that pays' }).click();
  await page.getByLabel('Bank', { exact: true }).fill(account.bank);
  await page.getByLabel(account.codeLabel).fill(account.code);
  await page.getByLabel('Account number').fill('44017788');
  await page.getByRole('button', { name: 'Pay from this account' }).click();
  await expect(page.getByText('••••7788').first()).toBeVisible();

  await page.getByRole('button', { name: 'No pay items' }).click();
  await page.getByLabel(item, { exact: true }).check();
  await page.getByRole('button', { name: 'Take 1 item' }).click();

  await page.goto('/employer');
  await page.getByRole('button', { name: 'Nobody to pay' }).click();
  await page.getByLabel('Code', { exact: true }).fill(person.code);
  await page.getByLabel('Given names').fill(person.givenNames);
  await page.getByLabel('Family name').fill(person.familyName);
  if (person.born) await page.getByLabel('Date of birth').fill(person.born);
  await page.getByLabel('Hire date').fill('2026-11-16');
  await page.getByLabel('Pay schedule').selectOption({ label: 'Weekly' });
  await page.getByLabel('Standard hours').fill(person.hours);
  await page.getByRole('button', { name: 'Add this person' }).click();
  await page.getByRole('button', { name: 'no rate of pay' }).click();
  await page.getByLabel('Amount').fill(rate);
  await page.getByLabel('From').fill('2026-11-16');
  await page.getByRole('button', { name: 'Pay this from that date on' }).click();
}
