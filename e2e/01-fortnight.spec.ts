import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { cell, openWaitingRun, panel, signIn, type } from './desk';

test.describe.configure({ mode: 'serial' });

let page: Page;
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
  await signIn(page);
  await openWaitingRun(page);
});
test.afterAll(() => page.close());

test('a wrong password says so and what to do', async ({ page: fresh }) => {
  await fresh.goto('/sign-in');
  await fresh.getByLabel('E-mail').fill('clerk@quillmere.example');
  await fresh.getByLabel('Password').fill('wrong');
  await fresh.getByRole('button', { name: 'Sign in' }).click();
  await expect(fresh.getByRole('alert')).toContainText('is not right');
});

test('hours typed in the sheet are calculated at once', async () => {
  await type(page, 'Bertil Amsden', 'hours overtime', '4.5');
  await expect(cell(page, 'Bertil Amsden', 'gross')).toHaveText('3,001.55');
  // Enter went down: the next hours go to those below.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await expect(cell(page, 'Cosima Brandreth', 'hours overtime')).toHaveText('2.00');
});

test('letters in hours are told, and what was typed stays', async () => {
  await type(page, 'Edda Farrow', 'hours leave', 'eight');
  await expect(page.getByRole('alert')).toContainText('Farrow, Edda: “eight” was not taken');
  await expect(cell(page, 'Edda Farrow', 'hours leave')).toHaveText('eight');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(cell(page, 'Edda Farrow', 'hours leave')).toHaveText('–');
});

test('a column copied from a spreadsheet is pasted downwards', async () => {
  await cell(page, 'Imke Dunmore', 'hours ordinary').click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text', '48\n');
    document
      .querySelector('.ag-cell-focus')
      ?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(cell(page, 'Imke Dunmore', 'gross')).toHaveText('828.00');
});

test('Ctrl+Z takes the last entry back', async () => {
  await type(page, 'Nils Penhallow', 'hours overtime', '9');
  await expect(cell(page, 'Nils Penhallow', 'hours overtime')).toHaveText('9.00');
  await page.keyboard.press('Control+z');
  await expect(cell(page, 'Nils Penhallow', 'hours overtime')).toHaveText('–');
});

test('every figure opens to its working, down to the fact, and back', async () => {
  await cell(page, 'Ines Halloway', 'net').click();
  await panel(page).getByRole('button', { name: 'Taxes ›' }).click();
  await panel(page).getByRole('button', { name: 'Federal income tax ›' }).click();
  await expect(panel(page)).toContainText('1,240.00 + 12% of what is over 19,900.00');
  await panel(page).getByRole('button', { name: 'Pay subject to this tax ›' }).click();
  await expect(panel(page).getByRole('heading', { name: /Federal income-tax wages/ })).toContainText('2,239.20');
  await panel(page).getByRole('button', { name: '‹ Back' }).click();
  await expect(panel(page).getByRole('heading', { name: /^Federal income tax/ })).toContainText('100.24');
});

test('a total opens to the people behind it, largest first', async () => {
  await page
    .getByRole('contentinfo', { name: 'Totals of the run' })
    .getByRole('button', { name: /^Deductions/ })
    .click();
  await expect(panel(page)).toContainText('largest first');
  await panel(page).getByRole('button', { name: 'Culverhouse, Dario ›' }).click();
  await expect(panel(page)).toContainText('Child support');
});

test('a one-off, a tax by hand and leaving an item out are for this run only', async () => {
  await cell(page, 'Wim Yarborough', 'person').click();
  await panel(page).getByRole('button', { name: 'Add a one-off' }).click();
  await panel(page).getByLabel('Item').selectOption({ label: 'Travel costs' });
  await panel(page).getByLabel('Amount').fill('64.20');
  await panel(page).getByRole('button', { name: 'Add it to this payslip' }).click();
  await expect(cell(page, 'Wim Yarborough', 'one-offs')).toHaveText('64.20');
  await panel(page).getByRole('button', { name: 'Change Travel costs' }).click();
  await panel(page).getByLabel('Amount').fill('46.20');
  await panel(page).getByRole('button', { name: 'Save it on this payslip' }).click();
  await expect(cell(page, 'Wim Yarborough', 'one-offs')).toHaveText('46.20');
  await panel(page).getByRole('button', { name: 'Change an amount' }).click();
  await panel(page).getByLabel('Item').selectOption('health');
  await panel(page).getByLabel('Amount this once').fill('25');
  await panel(page).getByRole('button', { name: 'Use this amount once' }).click();
  await expect(panel(page)).toContainText('Health premium 25.00 this once');
  await panel(page).getByRole('button', { name: 'Override a tax' }).click();
  await panel(page).getByLabel('Amount').fill('50');
  await panel(page).getByLabel('Reason').fill('agency letter');
  await panel(page).getByRole('button', { name: 'Use this amount once' }).click();
  await expect(panel(page)).toContainText('given as 50.00: agency letter');
  await panel(page).getByRole('button', { name: 'Rebuild from set-up' }).click();
  await expect(panel(page)).toContainText('travel of 46.20');
  await expect(panel(page)).toContainText('health of 25.00 this once');
  await panel(page).getByRole('button', { name: 'Discard and rebuild' }).click();
  await expect(cell(page, 'Wim Yarborough', 'one-offs')).toHaveText('–', { timeout: 15_000 });
});

test('differences are explained in causes that add up', async () => {
  await page.getByRole('button', { name: 'Why it differs' }).click();
  await expect(page.getByText('Overtime is new: 4.50 hours')).toBeVisible();
  const shares = await page.locator('table.causes tr:not(.sum) td:last-child').allTextContents();
  const number = (text: string) => Math.round(Number(text.replace('−', '-').replace(/[+,]/g, '')) * 100);
  const sum = await page.locator('table.causes tr.sum td:last-child').textContent();
  expect(shares.reduce((total, share) => total + number(share), 0)).toBe(number(sum ?? ''));
});

test('open points are fixed or accepted with a reason', async () => {
  await page.getByRole('button', { name: /^Open points/ }).click();
  const points = page.getByRole('button', { name: 'Accept with a reason' });
  // Those who have no hours are accepted together.
  await points.first().click();
  await page.getByLabel('Reason').fill('no work this fortnight');
  await page.getByRole('button', { name: /^Accept (it|\d)/ }).click();
  await expect(points).toHaveCount(0);
  await expect(page.getByText('Accepted by Odile Marchetti: no work this fortnight').first()).toBeVisible();
});

test('register and payslips come as files', async () => {
  const fetched = async (name: string) => {
    await page.getByRole('button', { name: 'More' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
    return readFileSync(await download.path());
  };
  expect((await fetched('Register, CSV')).toString()).toContain('Bertil Amsden,2026-11-27');
  expect((await fetched('Register, XLSX')).subarray(0, 2).toString()).toBe('PK');
  expect((await fetched('Payslips of all, PDF')).subarray(0, 5).toString()).toBe('%PDF-');
});

test('approving says in figures what it does, posts once, and refuses another tab', async ({ browser }) => {
  const other = await browser.newPage();
  await signIn(other, 'approver');
  await other.goto(page.url().replace(/\?.*/, ''));
  await expect(other.getByRole('button', { name: 'Approve run' })).toBeVisible();
  await page.getByRole('button', { name: 'Approve run' }).click();
  await expect(page.getByRole('heading', { name: /^Pay \d+ people [\d,.]+ on Fri 27 Nov 2026$/ })).toBeVisible();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(page.getByRole('list', { name: 'Stages of the run' })).toContainText('by Odile Marchetti');
  await expect(page.getByRole('contentinfo')).toContainText('Posted');
  await other.getByRole('button', { name: 'Approve run' }).click();
  await other.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(other.getByRole('alert')).toContainText('Odile Marchetti approved this run already');
  await other.close();
});
