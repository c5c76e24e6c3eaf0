import { expect, test, type Page } from '@playwright/test';
import { cell, panel, signIn, type } from './desk';

test.describe.configure({ mode: 'serial' });

/** The fortnight after the one that waits; in it everything happens that makes clerks stay late. */
const PERIOD = '22 Nov – 5 Dec 2026, biweekly';
let page: Page;
let run = '';

test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
  await signIn(page);
});
test.afterAll(() => page.close());

const startNext = async (words: string) => {
  await page.goto('/today');
  await page.getByRole('row').filter({ hasText: words }).getByRole('button', { name: 'Start this run' }).click();
  await page.waitForURL('**/pay-runs/*');
  await expect(page.locator('.ag-row').first()).toBeVisible({ timeout: 20_000 });
};

/** What a payslip takes at most for the retirement deferral; empty: no limit. */
const limitDeferral = async (limit: string) => {
  await page.goto('/pay-items');
  await page.getByText('Retirement deferral', { exact: true }).click();
  await page.getByRole('button', { name: 'Change: How it works' }).click();
  await page.getByLabel('Per payslip').fill(limit);
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Save the change from now on' }).click();
  await expect(page.getByRole('button', { name: 'Change: How it works' })).toBeVisible();
};

test('set-up gone wrong before it: a limit of nothing at an item, a leaver, a bonus', async () => {
  await limitDeferral('0');

  await page.goto('/people');
  await page.getByText('Eversholt, Mattis').click();
  const leaving = page.locator('#leaving');
  await leaving.getByRole('button', { name: 'Record leaving' }).click();
  await leaving.getByLabel('Last day').fill('2026-12-01');
  await leaving.getByLabel('Reason').fill('moves away');
  await leaving.getByRole('button', { name: 'Show what it changes' }).click();
  // The final payslip is there before anything is saved, each line open to its working.
  await leaving.getByRole('button', { name: 'Vacation payout' }).click();
  await expect(leaving.getByRole('button', { name: 'Vacation, balance ›' })).toBeVisible();
  await leaving.getByRole('button', { name: 'Save the leaving' }).click();
  await expect(leaving.getByText('The final pay is with the regular run.')).toBeVisible();

  await page.goto('/pay-runs/one-offs');
  await page.getByLabel('Person, line 1').fill('Q018');
  await page.getByLabel('Item, line 1').fill('Bonus');
  await page.getByLabel('Amount, line 1').fill('400');
  await page.getByRole('button', { name: 'Save this one-off' }).click();
  await expect(page.getByText('One one-off saved.')).toBeVisible();
});

test('time that is not all there: a sheet with a day missing and a long one, one not approved, one not handed in', async ({ browser }) => {
  const admin = await browser.newPage();
  await signIn(admin, 'admin');
  await admin.getByRole('button', { name: /^Employer:/ }).click();
  await admin.getByRole('button', { name: 'Quillmere Glassworks', exact: true }).click();
  await admin.goto('/employer');
  await admin.getByRole('button', { name: 'Change: Posting and rules' }).click();
  await admin.getByLabel('Timesheets are expected of').selectOption({ label: 'hourly people without standard hours' });
  await admin.getByRole('button', { name: 'Show what it changes' }).click();
  await admin.getByRole('button', { name: 'Save posting and rules' }).click();
  await expect(admin.getByRole('button', { name: 'Change: Posting and rules' })).toBeVisible();
  await admin.close();

  await page.goto('/time?from=2026-11-22');
  // Thanksgiving and the day after are none to wait for; Friday 4 December is.
  for (const day of ['23', '24', '25', '27', '30', '01', '02', '03']) {
    await cell(page, 'Ashdowne, Clementine', `2026-${day < '20' ? '12' : '11'}-${day}`).click();
    await page.keyboard.type(day === '30' ? '15' : '5');
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'Approve 1 sheet' }).click();
  await expect(page.getByText('1 approved')).toBeVisible();
  await cell(page, 'Bexhill, Roald', '2026-11-24').click();
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Approve 1 sheet' })).toBeVisible();
});

test('the run names the item, not the people; the leaver is paid for the days and the leave that is left', async () => {
  await startNext(PERIOD);
  run = page.url();
  await expect(cell(page, 'Jonas Ketteridge', 'one-offs')).toHaveText('400.00');
  // Eight of ten weekdays: 22 Nov to 1 Dec has seven of them.
  await expect(cell(page, 'Mattis Eversholt', 'hours ordinary')).toHaveText('56.00');
  await cell(page, 'Mattis Eversholt', 'person').click();
  await expect(panel(page)).toContainText('Vacation payout');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Open points/ }).click();
  await expect(page.getByText(/Retirement deferral is zero for all \d+ who have it, because its limit is 0.00/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Retirement deferral', exact: true })).toBeVisible();
  const point = (who: string) => page.getByRole('row').filter({ hasText: who });
  await expect(point('Clementine Ashdowne')).toContainText('Approved time to look at: Nothing on Fri 4 Dec; Mon 30 Nov has 15.00 hours.');
  await expect(point('Roald Bexhill').filter({ hasText: 'The timesheet is open, not approved' })).toBeVisible();
  await expect(point('Imke Dunmore')).toContainText('No timesheet yet, and no hours.');
  await limitDeferral('');
  await page.goto(`${run}?view=points`);
  await page.getByRole('button', { name: 'Recalculate the run' }).first().click();
  await expect(page.getByText(/Retirement deferral is zero/)).toBeHidden({ timeout: 30_000 });
});

test('two rates in a week, and an order that few hours do not cover', async () => {
  await page.goto(run);
  await type(page, 'Ines Halloway', 'hours ordinary', '60');
  await type(page, 'Ines Halloway', 'hours ordinary@2', '20');
  await cell(page, 'Ines Halloway', 'gross').click();
  await expect(panel(page)).toContainText('Regular, ');
  await type(page, 'Dario Culverhouse', 'hours ordinary', '12');
  await page.getByRole('button', { name: /^Open points/ }).click();
  await expect(page.getByText(/protected earnings leave room for/).first()).toBeVisible();
});

test('the review ranks what is unusual; points are accepted with a reason that the approver sees', async () => {
  await page.getByRole('button', { name: 'Review', exact: true }).click();
  await expect(
    page
      .getByText('Bonus of 400.00')
      .or(page.getByText(/Net [\d,.]+, where/))
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Social security', exact: true }).click();
  await expect(panel(page)).toContainText('largest first');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Open points/ }).click();
  const points = page.getByRole('button', { name: 'Accept with a reason' });
  await expect(points.first()).toBeVisible();
  const accepted = page.getByText('Accepted by');
  while ((await points.count()) > 0) {
    const before = await accepted.count();
    await points.first().click();
    await page.getByLabel('Reason').fill('short fortnight, agreed');
    await page.getByRole('button', { name: /^Accept (it|\d)/ }).click();
    // The list is there again, with what was accepted in it, before the next is looked for.
    await expect.poll(() => accepted.count()).toBeGreaterThan(before);
  }
  await page.getByRole('button', { name: 'Review', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Accepted, with the reason given' })).toBeVisible();
});

test('somebody else approves; a cheque is paid again; a payslip is reversed with a replacement', async ({ browser }) => {
  const approver = await browser.newPage();
  await signIn(approver, 'approver');
  await approver.goto(run);
  await approver.getByRole('button', { name: 'Approve run' }).click();
  await approver.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(approver.getByRole('contentinfo')).toContainText('Posted');
  await approver.close();

  await page.goto(run);
  await cell(page, 'Mattis Eversholt', 'person').click();
  await panel(page).getByRole('button', { name: 'Lost or returned: pay again …' }).click();
  await panel(page).getByLabel('Reason').fill('lost in the post');
  await panel(page)
    .getByRole('button', { name: /^Stop it and pay/ })
    .click();
  await expect(panel(page).getByText('stopped: lost in the post')).toBeVisible();

  await cell(page, 'Oda Quarrington', 'person').click();
  await panel(page).getByRole('button', { name: 'Reverse this payslip …' }).click();
  await expect(panel(page).getByText(/has to come back|was made out/)).toBeVisible();
  await panel(page).getByLabel('Reason').fill('wrong rate');
  await panel(page).getByRole('button', { name: 'Reverse payslip' }).click();
  await expect(page.getByText('correction, paid')).toBeVisible({ timeout: 20_000 });
});
