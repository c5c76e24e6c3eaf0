import { expect, test } from '@playwright/test';
import { signIn } from './desk';

test('a person is added unfinished, and completed from the list of what is missing', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByRole('link', { name: 'Add a person' }).click();
  await page.getByLabel('Code', { exact: true }).fill('Q099');
  await page.getByLabel('Given names').fill('Wilhelmina');
  await page.getByLabel('Family name').fill('Abernethy-Featherstonehaugh');
  await page.getByRole('button', { name: 'Add this person' }).click();
  for (const missing of [
    'no hire date',
    'no pay schedule',
    'no rate of pay',
    'no tax details',
    'no national number',
    'no method of payment',
  ]) {
    await expect(page.getByRole('button', { name: missing })).toBeVisible();
  }

  await page.getByRole('button', { name: 'no hire date' }).click();
  await page.getByLabel('Hire date').fill('2026-11-16');
  await page.getByLabel('Pay schedule').selectOption({ label: 'Semimonthly' });
  await page.getByRole('button', { name: 'Save details' }).click();
  await page.getByRole('button', { name: 'no rate of pay' }).click();
  await page.getByLabel('Amount').fill('62000');
  await page.getByLabel(/^Per\s/).selectOption('year');
  await page.getByLabel('From', { exact: true }).fill('2026-11-16');
  await page.getByRole('button', { name: 'Pay this from that date on' }).click();
  await expect(page.getByRole('cell', { name: '62,000.00 a year' }).first()).toBeVisible();

  await page.getByRole('button', { name: 'no tax details' }).click();
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByRole('alert')).toContainText('The tax details are not complete');
  await page.getByLabel('Filing status, step 1(c)').selectOption({ label: 'Head of household' });
  await page.getByLabel('Lives in').first().selectOption({ label: 'Texas' });
  await page.getByLabel('Works in').first().selectOption({ label: 'Texas' });
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText('In force from Mon 23 Nov 2026')).toBeVisible();

  await page.getByRole('button', { name: 'no method of payment' }).click();
  await page.getByLabel('Routing number').fill('123456789');
  await page.getByLabel('Account number').fill('40017');
  await page.getByRole('button', { name: 'Pay this way from now on' }).click();
  await expect(page.getByRole('alert')).toContainText('check digit');
  await page.getByLabel('Routing number').fill('123456780');
  await page.getByRole('button', { name: 'Pay this way from now on' }).click();
  await expect(page.getByText('account ••••0017')).toBeVisible();
});

test('a protected number is masked, shown on request, and that is recorded', async ({ page }) => {
  await signIn(page);
  await page.goto('/people?text=Fennimore');
  await page.locator('.ag-row').filter({ hasText: 'Fennimore' }).click();
  await expect(page.getByText('•••-••-6702')).toBeVisible();
  await page.getByRole('button', { name: 'Show it; recorded' }).click();
  await expect(page.getByText('123456702')).toBeVisible();
  await page.reload();
  await expect(page.getByText('National number shown in full')).toBeVisible();
  await page.goBack();
  await expect(page).toHaveURL(/text=Fennimore&at=/);
  await expect(page.locator('.ag-cell-focus')).toHaveText('Fennimore, Tobias');
});

test('a change of an item shows its effect on the open run before it is saved', async ({ page }) => {
  await signIn(page);
  await page.goto('/today');
  await page.getByRole('row').filter({ hasText: '16 – 30 Nov 2026' }).getByRole('button', { name: 'Start this run' }).click();
  await expect(page.locator('.ag-row').first()).toBeVisible({ timeout: 20_000 });
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'Roth deferral', exact: true }).click();
  await page.getByRole('button', { name: 'Change: How it works' }).click();
  await page.getByLabel('Per payslip').fill('0');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('In the open runs this changes')).toContainText('1 would have to be looked at');
  await page.getByRole('button', { name: 'Save the change from now on' }).click();
  await expect(page.getByText('0.00 a payslip').first()).toBeVisible();
  await page.goto('/pay-runs');
  await page.getByRole('link', { name: '16 – 30 Nov 2026', exact: true }).click();
  await page.getByRole('button', { name: /^Open points/ }).click();
  await expect(page.getByText('Set-up or paid amounts changed')).toBeVisible();
  await page.getByRole('button', { name: 'Recalculate the run' }).click();
  // What that changed is told, person by person, until it is closed.
  const told = page.getByRole('status').filter({ hasText: 'Worked out again' });
  await expect(told).toContainText('one payslip is other than before');
  await expect(told.getByRole('row').nth(1)).toContainText(/Ishaan Bellweather.*Roth deferral is zero because its limit is 0\.00.*\+/);
  await told.getByRole('button', { name: 'Close' }).click();
  await expect(told).toBeHidden();
  await expect(page.getByText('Set-up or paid amounts changed')).toBeHidden({ timeout: 15_000 });
});

test('what an earlier system paid is tied out while it is entered, and stands in the year', async ({ page }) => {
  await signIn(page);
  await page.goto('/people?text=Hartnoll');
  await page.locator('.ag-row').filter({ hasText: 'Hartnoll' }).click();
  await page.getByRole('button', { name: 'no tax details' }).click();
  await page.getByLabel('In force from').fill('2026-01-01');
  await page.getByLabel('Filing status, step 1(c)').selectOption({ label: 'Head of household' });
  await page.getByLabel('Lives in').first().selectOption({ label: 'Texas' });
  await page.getByLabel('Works in').first().selectOption({ label: 'Texas' });
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText('In force from Thu 1 Jan 2026')).toBeVisible();
  await page.getByRole('button', { name: 'Enter what was paid' }).click();
  await page.getByLabel('Regular', { exact: true }).fill('8,000.00');
  await page.getByLabel('Federal income tax').fill('610.00');
  await page.getByLabel('Social security').fill('469.00');
  await page.getByLabel('Medicare').fill('116.00');
  await expect(page.getByText('Social security was 469.00, and the rate on the pay entered gives 496.00.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Post what was paid' })).toBeDisabled();
  await page.getByLabel('Social security').fill('496.00');
  await expect(page.getByText('It ties out')).toBeVisible();
  await page.getByRole('button', { name: 'Post what was paid' }).click();
  await expect(page.getByText('Paid until Wed 30 Sep 2026')).toBeVisible();
  await expect(page.getByRole('button', { name: '8,000.00' })).toBeVisible();
  await page.goto('/pay-runs');
  await expect(page.getByText('opening balances')).toBeVisible();
});

test('net pay goes to two accounts, a document tells on Today when it expires, a postcode fills in the place', async ({ page }) => {
  await signIn(page);
  await page.goto('/people?text=Ketteridge');
  await page.locator('.ag-row').filter({ hasText: 'Ketteridge' }).click();
  const payment = page.locator('#payment');
  await payment.getByRole('button', { name: 'Change' }).click();
  await payment.getByRole('button', { name: 'Another account' }).click();
  await payment.getByRole('textbox', { name: 'Amount' }).fill('200.00');
  await payment.getByLabel('Routing number').first().fill('123456780');
  await payment.getByRole('button', { name: 'Pay this way from now on' }).click();
  await expect(payment.getByRole('alert')).toContainText('The account number is missing');
  await payment.getByLabel('Account number').first().fill('40017002');
  await payment.getByRole('button', { name: 'Pay this way from now on' }).click();
  await expect(payment.getByRole('row', { name: /••••7002 200\.00 each pay 200\.00/ })).toBeVisible();
  await payment.getByRole('button', { name: 'Ask for one' }).first().click();
  await expect(payment.getByText('goes with the next payment')).toBeVisible();

  await page.getByRole('button', { name: 'Add a document' }).click();
  await page.getByLabel('Document', { exact: true }).fill('Work permit');
  await page.getByLabel('Expires on').fill('2026-12-10');
  await page.getByRole('button', { name: 'Put it on file' }).click();
  await expect(page.getByText('expires Thu 10 Dec 2026')).toBeVisible();
  await page.getByRole('button', { name: 'Change: Details' }).click();
  await page.getByLabel('ZIP code').fill('23320');
  await expect(page.getByLabel('City', { exact: true })).toHaveValue('Chesapeake');
  await expect(page.getByLabel('State', { exact: true })).toHaveValue('VA');
  await page.goto('/today');
  await expect(page.getByText('Jonas Ketteridge: Work permit expires')).toBeVisible();
});
