import { expect, test } from '@playwright/test';
import { openMonthEndRun, signIn } from './desk';

test('standard items are taken from the ready set, and an own one is added with its match in tiers', async ({ page }) => {
  await signIn(page);
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'Add standard items' }).click();
  await page.getByLabel('Dental premium').check();
  await page.getByLabel('Piece work').check();
  await page.getByRole('button', { name: 'Take 2 items' }).click();
  await expect(page.getByRole('link', { name: 'Dental premium' })).toBeVisible();

  await page.getByRole('link', { name: 'Add a pay item' }).click();
  await page.getByLabel('Name').fill('Match, long service');
  await expect(page.getByLabel('Code')).toHaveValue('match-long-service');
  await page.getByLabel('Kind').selectOption({ label: "Employer's contribution" });
  await page.getByLabel('Calculated as').selectOption({ label: 'Match of what the employee puts in' });
  await page.locator('select[name="matchOf"]').selectOption({ label: 'Retirement deferral' });
  await page.getByLabel('Up to, % of pay').fill('6');
  await page.getByLabel('Matched at, %').fill('100');
  await page.getByRole('button', { name: 'Add this item' }).click();
  await expect(page.getByRole('alert')).toContainText('treatment');
  await page.getByLabel('Tax treatment').selectOption({ label: "Employer's contribution to a plan" });
  await page.getByRole('button', { name: 'Add this item' }).click();
  await expect(page.getByText('Match of Retirement deferral: 100% up to 6% of gross pay').first()).toBeVisible();
});

test('an item is given to many at once after its effect was shown, and retired with the offer to end it for all', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'Union dues', exact: true }).click();
  await page.getByRole('button', { name: /Give, change or end it/ }).click();
  await page.getByRole('button', { name: 'Has it not' }).click();
  await page.getByLabel('Filter').fill('Design');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  await page.getByLabel('Amount').fill('12.50');
  await page.getByRole('button', { name: 'Enter it for all shown' }).click();
  await expect(page.getByText(/\d+ get it/)).toBeVisible();
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText(/In the open runs this changes \d+ payslips?/)).toBeVisible();
  await page.getByRole('button', { name: /^Save for \d+ people/ }).click();
  await expect(page.getByRole('cell', { name: '12.50' }).first()).toBeVisible();
  await expect(page.getByText(/given to \d+, changed for 0, ended for 0/)).toBeVisible();

  await page.getByRole('button', { name: 'Retire this item …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/people have it\. It is ended for all of them/)).toBeVisible();
  await expect(dialog.getByText('In the open runs')).toBeVisible();
  await dialog.getByRole('button', { name: 'End it for all and retire it' }).click();
  await expect(page.getByText('Nobody can get it any more')).toBeVisible();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByText('Nobody can get it any more')).toBeHidden();
});

test('an item for the first pay of the month says on the payslip why it is not there', async ({ page }) => {
  await signIn(page);
  await openMonthEndRun(page);
  const run = page.url();
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'Health premium', exact: true }).click();
  await page.getByRole('button', { name: 'Change: When it applies' }).click();
  await page.getByLabel('1st').check();
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('In the open runs')).toBeVisible();
  await page.getByRole('button', { name: 'Save the change from now on' }).click();
  await expect(page.getByText('On the first pay date of the month').first()).toBeVisible();
  await page.goto(run);
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Recalculate the run' }).click();
  await page.locator('.ag-row').filter({ hasText: 'Bellweather, Ishaan' }).locator('[col-id="person"]').click();
  await expect(page.getByText('Only on the first pay date of the month; this is the second and last')).toBeVisible();
});

test('what an item counts for is adjusted by an administrator only, and marked', async ({ page }) => {
  await signIn(page, 'admin');
  await page.goto('/pay-items');
  await page.getByRole('link', { name: 'Savings club', exact: true }).click();
  await page.getByRole('button', { name: 'Change: Tax treatment' }).click();
  await expect(page.getByText('Do it only on advice')).toBeVisible();
  await page.getByLabel('For this item: Union dues').selectOption({ label: 'included' });
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Save the change from now on' }).click();
  await expect(page.getByText('adjusted for this item')).toBeVisible();
});

test('a rate is corrected, a coming one withdrawn, and a court order entered with its facts', async ({ page }) => {
  await signIn(page);
  await page.goto('/people?text=Amsden');
  await page.locator('.ag-row').filter({ hasText: 'Amsden' }).click();
  await page.getByRole('button', { name: 'New rate' }).click();
  await page.getByLabel('Amount').fill('41.25');
  await page.getByLabel('From').fill('2026-12-06');
  await page.getByLabel('Reason').fill('Promised raise');
  await page.getByRole('button', { name: 'Pay this from that date on' }).click();
  await expect(page.getByText('coming', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Correct the rate from 2026-12-06' }).click();
  await page.getByLabel('Amount').fill('40.25');
  await page.getByRole('button', { name: 'Correct the entry' }).click();
  await expect(page.getByText('40.25 an hour').first()).toBeVisible();
  await page.getByRole('button', { name: 'Withdraw the rate from 2026-12-06' }).click();
  await expect(page.getByText('coming', { exact: true })).toBeHidden();

  await page.getByRole('button', { name: 'Add an item' }).click();
  await page.getByRole('combobox', { name: 'Pay item' }).selectOption({ label: 'Child support' });
  await page.getByLabel('Amount each pay').fill('120.00');
  await page.getByLabel('Case number').fill('FS-2026-77');
  await page.getByLabel('Supports another spouse or child').check();
  await page.getByRole('button', { name: 'Add the item' }).click();
  await expect(page.getByText('FS-2026-77')).toBeVisible();
});
