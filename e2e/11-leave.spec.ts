import { expect, test } from '@playwright/test';
import { cell, openMonthEndRun, panel, signIn } from './desk';

test('leave is asked for, seen in the calendar, approved against the plan with a reason, and is on the open payslip', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  const run = page.url();
  await page.goto('/time/leave');
  await page.getByRole('button', { name: 'Ask for leave' }).click();
  await page.getByLabel('Who').selectOption({ label: 'Stockbridge, Freya' });
  await page.getByLabel('Plan').selectOption({ label: 'Sick leave' });
  await page.getByLabel('First day').fill('2026-11-18');
  await page.getByLabel('Last day').fill('2026-11-20');
  await expect(page.getByText('3 workdays')).toBeVisible();
  await page.getByRole('button', { name: 'Ask for 3 days' }).click();
  await expect(page.getByRole('row', { name: /Freya Stockbridge.*asked, to be decided/ })).toBeVisible();
  await expect(page.getByLabel('Freya Stockbridge, Thu 19 Nov 2026: Sick leave, 8 hours, asked')).toBeVisible();

  await page.getByRole('button', { name: 'Approve the leave of Freya Stockbridge' }).click();
  await page.getByRole('button', { name: 'Approve 24.00 hours' }).click();
  await expect(page.getByRole('row', { name: /Freya Stockbridge.*to be decided/ })).toBeHidden();
  await page.goto(run);
  await cell(page, 'Freya Stockbridge', 'person').click();
  await panel(page).getByRole('button', { name: 'Sick leave, taken' }).click();
  await expect(panel(page)).toContainText('Approved for 18 Nov 2026');
  await expect(panel(page)).toContainText('Paid within the salary');
});

test('more leave than there is says so before it is asked for, and is approved only with a comment', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByText('Farrow, Edda').click();
  const leave = page.locator('#leave');
  await leave.getByRole('button', { name: 'Ask for leave' }).click();
  await leave.getByLabel('Plan').selectOption({ label: 'Sick leave' });
  await leave.getByLabel('First day').fill('2027-02-01');
  await leave.getByLabel('Last day').fill('2027-02-26');
  await expect(leave.getByText(/the plan allows none below zero/)).toBeVisible();
  await leave.getByRole('button', { name: /^Ask for \d+ days/ }).click();
  await expect(leave.getByRole('row', { name: /1 – 26 Feb 2027/ })).toBeVisible();
  await leave
    .getByRole('row', { name: /1 – 26 Feb 2027/ })
    .getByRole('button', { name: 'Approve the leave of Edda Farrow' })
    .click();
  await leave.getByRole('button', { name: /^Approve [\d.]+ hours/ }).click();
  await expect(leave.getByRole('alert')).toContainText('Approve it with a comment that says why, or decline it.');
  await leave.getByLabel('Comment').fill('Agreed with the owner');
  await leave.getByRole('button', { name: /^Approve [\d.]+ hours/ }).click();
  await expect(leave.getByText('Agreed with the owner')).toBeVisible();
});

test('a balance is set right without payment: shown before, with its reason as its working', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByText('Penhallow, Nils').click();
  const leave = page.locator('#leave');
  await leave.getByRole('button', { name: 'Adjust a balance' }).click();
  await leave.getByLabel('Balance').selectOption({ index: 2 });
  await leave.getByLabel('Add, or take off').fill('-2.5');
  await leave.getByLabel('Reason').fill('Half a morning booked twice');
  await leave.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(leave.getByRole('status')).toContainText('Nothing is paid.');
  await leave.getByRole('button', { name: 'Post the adjustment' }).click();
  await leave.getByRole('button', { name: '−2.50' }).click();
  await expect(panel(page)).toContainText('Reason: Half a morning booked twice');
});

test('terms of a plan change from a day on; what they do to the open run is shown first', async ({ page }) => {
  await signIn(page);
  await page.goto('/time/leave/plans');
  await page.getByRole('button', { name: 'Change Sick leave' }).click();
  await page.getByLabel('In force from').fill('2027-01-01');
  await page.getByLabel('Earned in a plan year at most').fill('56');
  await expect(page.getByText(/No payslip in the open runs changes|No run is open/)).toBeVisible();
  await page.getByRole('button', { name: 'Save from this day on' }).click();
  await expect(page.getByText('From Fri 1 Jan 2027, coming')).toBeVisible();
});
