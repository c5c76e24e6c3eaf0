import { expect, test } from '@playwright/test';
import { cell, openMonthEndRun, panel, signIn } from './desk';

test('one-offs are entered for many, a wrong line is named and nothing lost, and the open run takes them', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  const run = page.url();
  await page.goto('/pay-runs/one-offs');
  await page.getByLabel('Person, line 1').fill('Stockbridge, Freya (Q009)');
  await page.getByLabel('Item, line 1').fill('Bonus');
  await page.getByLabel('Amount, line 1').fill('150');
  await page.getByLabel('Note, line 1').fill('Open day');
  await page.getByLabel('Person, line 2').fill('Nobody');
  await page.getByLabel('Item, line 2').fill('Bonus');
  await page.getByLabel('Amount, line 2').fill('75');
  await page.getByRole('button', { name: 'Save 2 one-offs' }).click();
  await expect(page.getByRole('alert')).toContainText('line 2, person: expected the code of a person on file');
  await page.getByLabel('Person, line 2').fill('Q005');
  await page.getByRole('button', { name: 'Save 2 one-offs' }).click();
  await expect(page.getByText('2 one-offs saved.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Stockbridge, Freya Bonus 150\.00 Open day in the run paid/ })).toBeVisible();

  await page.goto(run);
  await expect(cell(page, 'Freya Stockbridge', 'one-offs')).toHaveText('150.00');
  await cell(page, 'Freya Stockbridge', 'person').click();
  await panel(page).getByRole('button', { name: 'Put Bonus back' }).click();
  await expect(cell(page, 'Freya Stockbridge', 'one-offs')).toHaveText('–');
  await page.goto('/pay-runs/one-offs');
  await expect(page.getByRole('row', { name: /Stockbridge, Freya Bonus 150\.00 Open day waits for the next run/ })).toBeVisible();
  await page.getByRole('button', { name: 'Remove, Stockbridge, Freya' }).click();
  await page.getByRole('button', { name: 'Remove, Vanterpool, Henrike' }).click();
  await expect(page.getByText('Nothing waits.')).toBeVisible();
});

test('a raise from last month offers back pay for each paid period, with its working, and puts it among the one-offs', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByText('Bellweather, Ishaan').click();
  const pay = page.locator('#pay');
  await pay.getByRole('button', { name: 'New rate' }).click();
  await pay.getByLabel('Amount').fill('75600');
  await pay.getByLabel('From').fill('2026-10-16');
  await pay.getByRole('button', { name: 'Pay this from that date on' }).click();
  // 2,400.00 more a year is 100.00 more in each of 24 pays; two periods are paid.
  const offer = page.locator('wr-back-pay-offer');
  await expect(offer.getByRole('row', { name: /In all/ })).toContainText('+200.00');
  await offer.getByRole('button', { name: '+100.00' }).first().click();
  await expect(offer.getByText('With what is known now')).toBeVisible();
  await offer.getByRole('button', { name: 'Put 200.00 among the one-offs' }).click();
  await expect(page.getByText('Back pay is among the one-offs: 2 lines.')).toBeVisible();
  await page.getByRole('link', { name: 'To the one-offs' }).click();
  await expect(page.getByText(/Back pay 16 – 31 Oct 2026: Salary/)).toBeVisible();
  const remove = page.getByRole('button', { name: 'Remove, Bellweather, Ishaan' });
  await remove.first().click();
  await expect(remove).toHaveCount(1);
  await remove.click();
  await expect(page.getByText('Nothing waits.')).toBeVisible();
});

test('a special run pays chosen people, is approved, withdrawn before its cut-off, and its payslips are sent once', async ({ page }) => {
  await signIn(page);
  await page.goto('/pay-runs/special');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  await page.getByLabel('Name').fill('Long service');
  await page.getByLabel('For the people of').selectOption({ label: 'Semimonthly' });
  await page.getByLabel('Paid on').fill('2026-12-18');
  await cell(page, 'Marchetti, Odile', 'amount').click();
  await page.keyboard.type('500');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Start the run for 1 person' }).click();
  await expect(page.getByRole('heading', { name: '18 Dec 2026' })).toBeVisible();
  await expect(cell(page, 'Odile Marchetti', 'gross')).toHaveText('500.00');
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Withdraw this run …' }).click();
  await page.getByLabel('Reason').fill('amount agreed anew');
  await page.getByRole('button', { name: 'Withdraw the run', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Approve run' })).toBeVisible({ timeout: 20_000 });
  await expect(cell(page, 'Odile Marchetti', 'gross')).toHaveText('500.00');
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('button', { name: 'Deliver payslips' }).click();
  await page.getByLabel('Register to Tobias Fennimore').check();
  await page.getByLabel('Summary to Tobias Fennimore').check();
  await page.getByRole('button', { name: 'Send 1 payslip and 2 reports' }).click();
  await expect(page.getByText('1 sent.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Everything is sent' })).toBeDisabled();
  await page.getByRole('link', { name: 'The outbox' }).click();
  await expect(page.getByRole('row', { name: /Odile Marchetti.*Payslip of Fri 18 Dec 2026/ })).toHaveCount(1);
});

test('time is typed by day, becomes overtime by the rules with its working, is approved and locked', async ({ page }) => {
  await signIn(page);
  await page.goto('/time?from=2026-12-06');
  await expect(page.getByText('6 – 19 Dec 2026, biweekly')).toBeVisible();
  for (const [day, hours] of [
    ['2026-12-07', '10'],
    ['2026-12-08', '10'],
    ['2026-12-09', '9:30'],
    ['2026-12-10', '8'],
    ['2026-12-11', '7.5'],
  ] as const) {
    await cell(page, 'Amsden, Bertil', day).click();
    await page.keyboard.type(hours);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('Regular 40.00, Overtime 5.00')).toBeVisible();
  await cell(page, 'Amsden, Bertil', 'person').click();
  const beside = page.getByRole('complementary', { name: /Time of Amsden/ });
  await beside.getByRole('button', { name: 'Overtime' }).click();
  await expect(beside.getByText('Fri 11 Dec 2026, over 40 in the week')).toBeVisible();
  await page.getByRole('button', { name: 'Approve 1 sheet' }).click();
  await expect(page.getByText('1 approved')).toBeVisible();
  await page.getByRole('button', { name: 'Lock the period' }).click();
  await expect(page.getByText('locked by Odile Marchetti')).toBeVisible();
  await page.getByRole('button', { name: 'Unlock …' }).click();
  await page.getByLabel('Why it is unlocked').fill('late sheet');
  await page.getByRole('button', { name: 'Unlock the period' }).click();
  await expect(page.getByRole('button', { name: 'Lock the period' })).toBeVisible();
});
