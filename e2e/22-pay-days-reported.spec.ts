import { expect, test, type Page } from '@playwright/test';
import { acceptAll, approveRun, cell, signIn, type as typed } from './desk';

/** The demo's rope makers in Tasmania and Victoria. */
async function ropeworks(page: Page): Promise<void> {
  await signIn(page, 'admin');
  await page.getByRole('button', { name: /^Employer/ }).click();
  await page.getByText('Tarrant Ropeworks Pty Ltd').click();
  await expect(page.getByRole('button', { name: 'Employer: Tarrant Ropeworks Pty Ltd' })).toBeVisible();
}
const act = async (page: Page, name: string, end: string) => {
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: end, exact: true }).click();
};
const sent = async (page: Page) => {
  await act(page, 'Prepare …', 'Prepare it');
  await act(page, 'Agree …', 'I agree');
  await act(page, 'File …', 'Send it');
  await expect(page.getByText('accepted', { exact: true }).first()).toBeVisible();
};
const open = async (page: Page, name: string) => {
  await page.goto('/people');
  await page.getByText(name).click();
  await expect(page.getByRole('heading', { name: name.replace(/^(.+), (.+)$/, '$2 $1') })).toBeVisible();
};

test('a fund that has closed sends a contribution back; it is paid again to the next one', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/filings/super/2026-11-05');
  await expect(
    page.getByText(/Trellis Retirement Fund has closed and sends the contribution of Bram Nightingale back/).first(),
  ).toBeVisible();
  await open(page, 'Nightingale, Bram');
  await page.getByRole('button', { name: 'New details' }).click();
  const form = page.locator('wr-tax-details-form');
  await form.getByLabel('In force from').fill('2026-11-01');
  await form.getByLabel(/USI or ABN of the fund/).fill('TCS0210AU');
  await form.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText('In force from Sun 1 Nov 2026')).toBeVisible();
  await page.goto('/filings/super/2026-11-05');
  await sent(page);
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  await expect(page.getByRole('region', { name: 'The file as it was sent' })).toContainText('TCS0210AU,Tarrant Coast Super');
});

test('a redundancy is looked at with its working, paid, reported with its reason, undone, and entered otherwise', async ({ page }) => {
  await ropeworks(page);
  await open(page, 'Kowalczyk, Linnea');
  const record = page.url();
  const leaving = page.locator('wr-person-leaving');
  await leaving.getByRole('button', { name: 'Record leaving' }).click();
  await leaving.getByLabel('Last day').fill('2026-11-20');
  await leaving.getByLabel('How it ends').selectOption({ label: 'genuine redundancy or approved early retirement' });
  await leaving.getByLabel('Reason').fill('The second walk closes');
  await leaving.getByLabel('Final pay').selectOption({ label: 'in a run of its own' });
  await leaving.getByLabel('Paid on').fill('2026-11-24');
  // Six whole years: eleven weeks of 36.33 for 38 hours.
  await expect(leaving.getByText('11 weeks of pay for 6 whole years of service.')).toBeVisible();
  await expect(leaving.getByText(/4 weeks of notice/)).toBeVisible();
  await leaving.getByRole('button', { name: 'Redundancy pay, how it came about' }).click();
  await expect(leaving.getByText(/Fair Work Act 2009, sections 119 to 122/).first()).toBeVisible();
  await leaving.getByRole('button', { name: 'Put it in' }).click();
  await leaving.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(leaving.getByRole('heading', { name: 'The final payslip' })).toBeVisible();
  await leaving.getByRole('button', { name: 'Save the leaving' }).click();
  await expect(leaving.getByText(/Last day Fri 20 Nov 2026/)).toBeVisible();

  await leaving.getByRole('link', { name: 'The final pay' }).click();
  await expect(page.locator('.ag-row').first()).toContainText('Kowalczyk, Linnea');
  await page.getByRole('button', { name: /^Look at \d open point/ }).click();
  await acceptAll(page);
  await approveRun(page);
  await page.goto('/filings/pay-event/2026-11-24');
  await expect(page.getByText('Lump sum D, tax-free part of redundancy').first()).toBeVisible();
  await sent(page);
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  const file = page.getByRole('region', { name: 'The file as it was sent' });
  await expect(file).toContainText('<CessationTypeC>R</CessationTypeC>');
  await expect(file).toContainText('<EmploymentEndD>2026-11-20</EmploymentEndD>');

  await page.goto(record);
  await leaving.getByLabel('Why it is undone').fill('Stays in the office instead');
  await leaving.getByRole('button', { name: 'Undo the leaving' }).click();
  await expect(leaving.getByText('No leaving is recorded.')).toBeVisible();
  await page.goto('/filings/pay-event/2026-11-24');
  await expect(page.getByText(/not as filed/).first()).toContainText('Stays in the office instead');

  // In its place a resignation: no redundancy by law, leave at marginal rates.
  await page.goto(record);
  await leaving.getByRole('button', { name: 'Record leaving' }).click();
  await leaving.getByLabel('Last day').fill('2019-01-01');
  await leaving.getByLabel('How it ends').selectOption({ label: 'resignation' });
  await leaving.getByLabel('Reason').fill('Moves to the mainland');
  await leaving.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(leaving.getByRole('alert').first()).toContainText('The last day is before the hire date');
  await leaving.getByLabel('Last day').fill('2026-11-27');
  await leaving.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(leaving.getByRole('heading', { name: 'The final payslip' })).toBeVisible();
  await expect(leaving.getByRole('button', { name: 'Redundancy pay, how it came about' })).toHaveCount(0);
  await leaving.getByRole('button', { name: 'Save the leaving' }).click();
  await expect(leaving.getByText(/Last day Fri 27 Nov 2026/)).toBeVisible();
});

test('the year that is over was reconciled and finalised, leavers too', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/filings/year/2025-26/reconcile');
  await expect(page.getByText('the register and the ledger agree')).toBeVisible();
  await page.getByRole('button', { name: 'Redundancy pay' }).first().click();
  await expect(page.getByRole('link', { name: 'Barraclough, Wen' })).toBeVisible();
  await page.goto('/filings/finalisation/2025-26');
  await expect(page.getByText('accepted', { exact: true }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Barraclough, Wen' })).toBeVisible();
});

test('stapled funds and loans come as notices, and any pay is looked up in the scales', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/people/notices');
  await page.getByRole('button', { name: 'Fetch from the agency' }).click();
  await expect(page.getByRole('row', { name: /Brannigan, Aoife.*stapled fund TCS0210AU/ })).toBeVisible();
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: /^Use \d notice/ }).click();
  await expect(page.getByText('used before').first()).toBeVisible();

  await page.goto('/filings/tables/scales');
  await page.getByLabel('Pay date', { exact: true }).fill('2026-03-12');
  await page.getByLabel('Pay of a period').fill('1000');
  // Scale 2 of 2025-26: 1,000.99 at 32.27 per cent less 180.0385.
  await expect(page.getByRole('row', { name: /PAYG withholding.*143\.00/ })).toBeVisible();
  await expect(page.getByText('32.27% of the whole less 180.0385')).toBeVisible();
  await page.getByLabel('Tax file number').selectOption({ label: 'not quoted' });
  await expect(page.getByRole('row', { name: /PAYG withholding.*470\.00/ })).toBeVisible();
  const printed = page.waitForEvent('popup');
  await page.getByRole('link', { name: 'Print the table (PDF)' }).click();
  await (await printed).close();
});

test('super that was late says what that costs, with the working', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/payments/payees/au.super');
  const charges = page.locator('wr-late-charges');
  await expect(charges.getByText('Due Mon 5 Oct 2026')).toBeVisible();
  await charges.getByRole('button', { name: /^Notional earnings, how it is calculated/ }).click();
  await charges.getByRole('button', { name: /^Earnings until 13 Oct 2026/ }).click();
  await expect(charges.getByText('8 days at 10.61 per cent a year, compounding daily')).toBeVisible();
});

test('another treatment of an allowance shows whose year to date it moves, before and after it is saved', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'First aid allowance' }).click();
  await page.getByRole('button', { name: 'Change: Tax treatment' }).click();
  await page.locator('select[name=treatment]').selectOption({ label: 'Allowance: tasks' });
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText(/was posted in 2026-27, and stays on the statements of 1 person where it is/)).toBeVisible();
  await page.getByRole('button', { name: 'Save the change from now on' }).click();
  await page.goto('/filings/year/2026-27/boxes');
  await page.getByRole('link', { name: 'posted under another treatment, to be moved' }).click();
  await page.getByRole('button', { name: 'Move it where it counts now …' }).click();
  await page.getByLabel('Reason').fill('It is paid for a task');
  await page.getByRole('button', { name: 'Move it', exact: true }).click();
  await expect(page.locator('#history').getByText(/moved to where it counts now, of one person: It is paid for a task/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Move it where it counts now …' })).toHaveCount(0);
});

test('annual leave is cashed out by agreement, within its limits', async ({ page }) => {
  await ropeworks(page);
  await page.goto('/today');
  await page.getByRole('row').filter({ hasText: '16 – 22 Nov 2026, weekly' }).getByRole('button', { name: 'Start this run' }).click();
  await page.waitForURL('**/pay-runs/*');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  await typed(page, 'Fergus Adeyemi', 'hours leave-cashed-out', '8');
  await expect(cell(page, 'Fergus Adeyemi', 'hours ordinary')).toHaveText('38.00');
  await page.getByRole('button', { name: 'Look at 1 open point' }).click();
  await expect(page.getByText(/8\.00 hours are cashed out, which takes a written agreement each time/)).toBeVisible();
});

test('the year that was finalised is amended for one, and the other follows', async ({ page }) => {
  await ropeworks(page);
  for (const name of ['Adeyemi, Fergus', 'Castellano, Reuben']) {
    await open(page, name);
    await page.getByRole('button', { name: 'Adjust a balance' }).click();
    const form = page.locator('wr-person-leave form');
    await form.getByLabel('Balance').selectOption('au.gross');
    await form.getByLabel('Add, or take off with a minus').fill('100.00');
    await form.getByLabel('As of').fill('2026-06-30');
    await form.getByLabel('Reason').fill('Paid in kind and forgotten');
    await form.getByRole('button', { name: 'Show what it changes' }).click();
    await form.getByRole('button', { name: 'Post the adjustment' }).click();
    await expect(form).toHaveCount(0);
  }
  await page.goto('/filings/finalisation/2025-26');
  await page.getByRole('button', { name: 'Prepare …', exact: true }).click();
  await page.getByLabel('Why it differs').fill('Paid in kind and forgotten');
  await page.locator('wr-held-back select[name=whom]').selectOption({ label: 'everybody who is ready, without …' });
  await page.locator('wr-held-back select[name=person]').selectOption({ label: 'Castellano, Reuben' });
  await expect(page.getByText(/1 person is held back and can follow later/)).toBeVisible();
  await page.getByRole('button', { name: 'Prepare it' }).click();
  await act(page, 'Agree …', 'I agree');
  await act(page, 'File …', 'Send it');
  await expect(page.getByText('amended, accepted', { exact: true }).first()).toBeVisible();
  await expect(page.getByText(/Held back: Castellano, Reuben/)).toBeVisible();
  const differs = page.locator('wr-filing-life .notice').first();
  await expect(differs.getByText('Castellano, Reuben')).toBeVisible();
  await expect(differs.getByText('Adeyemi, Fergus')).toHaveCount(0);
});
