import { expect, test } from '@playwright/test';
import { signIn } from './desk';

test('an employer from nothing to its first approved run', async ({ page }) => {
  await signIn(page, 'admin');
  await page.getByRole('button', { name: /^Employer:/ }).click();
  await page.getByRole('link', { name: 'Begin a new employer …' }).click();
  await page.getByLabel('Legal name').fill('Larkhollow Mill');
  await page.getByRole('button', { name: 'Add employer' }).click();
  await expect(page.getByText('Before the first run')).toBeVisible();

  await page.getByRole('button', { name: 'No address' }).click();
  await page.getByLabel('Street').fill('2 Mill Race');
  await page.getByLabel('City').fill('Larkhollow');
  await page.getByLabel('State', { exact: true }).fill('TX');
  await page.getByLabel('ZIP code').fill('79999');
  await page.getByLabel('Signs returns').fill('Ada Lark');
  await page.getByRole('button', { name: 'Save who it is' }).click();
  await expect(page.getByRole('button', { name: 'No address' })).toBeHidden();

  await page.getByRole('button', { name: 'Federal employer number missing' }).click();
  await page.getByLabel('Federal employer number').fill('12');
  await page.getByRole('button', { name: 'Add a state' }).click();
  await page.getByRole('combobox', { name: /^State/ }).selectOption({ label: 'Texas' });
  await page.getByLabel('Unemployment rate, %').fill('2.7');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByRole('alert')).toContainText('not as it is written on its notice');
  await page.getByLabel('Federal employer number').fill('00-7654321');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('No run is open')).toBeVisible();
  await page.getByRole('button', { name: 'Save the registrations' }).click();
  await expect(page.getByText('unemployment rate 2.7%')).toBeVisible();

  await page.getByRole('button', { name: 'No pay schedule' }).click();
  await page.getByLabel('Name').fill('Weekly');
  await page.getByRole('combobox', { name: /^Paid/ }).selectOption({ label: 'Weekly' });
  await page.getByLabel('A period begins on').fill('2026-11-15');
  await expect(page.getByText('52 of them')).toBeVisible();
  await page.getByRole('button', { name: 'Save the schedule' }).click();
  await expect(page.getByRole('button', { name: 'No pay schedule' })).toBeHidden();

  await page.getByRole('button', { name: 'No account that pays' }).click();
  await page.getByLabel('Bank', { exact: true }).fill('First Bank of Larkhollow');
  await page.getByLabel('Routing number').fill('123456780');
  await page.getByLabel('Account number').fill('40017788');
  await page.getByRole('button', { name: 'Pay from this account' }).click();
  await expect(page.getByText('••••7788').first()).toBeVisible();

  await page.getByRole('button', { name: 'No pay items' }).click();
  for (const item of ['Regular', 'Overtime', 'Health premium']) await page.getByLabel(item, { exact: true }).check();
  await page.getByRole('button', { name: 'Take 3 items' }).click();
  await expect(page.getByRole('link', { name: 'Overtime' })).toBeVisible();

  await page.goto('/employer');
  await expect(page.getByRole('heading', { name: 'Larkhollow Mill' })).toBeVisible();
  await page.getByRole('button', { name: 'Nobody to pay' }).click();
  await page.getByLabel('Code', { exact: true }).fill('L1');
  await page.getByLabel('Given names').fill('Quentin');
  await page.getByLabel('Family name').fill('Ashgrove');
  await page.getByLabel('Hire date').fill('2026-11-02');
  await page.getByLabel('Pay schedule').selectOption({ label: 'Weekly' });
  await page.getByLabel('Standard hours').fill('40');
  await page.getByRole('button', { name: 'Add this person' }).click();
  await page.getByRole('button', { name: 'no rate of pay' }).click();
  await page.getByLabel('Amount').fill('24.00');
  await page.getByLabel('From').fill('2026-11-02');
  await page.getByRole('button', { name: 'Pay this from that date on' }).click();
  await page.getByRole('button', { name: 'no tax details' }).click();
  await page.getByLabel('Filing status, step 1(c)').selectOption({ label: 'Head of household' });
  await page.getByLabel('Lives in').first().selectOption({ label: 'Texas' });
  await page.getByLabel('Works in').first().selectOption({ label: 'Texas' });
  await page.getByLabel('From').last().fill('2026-11-02');
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText(/In force from/)).toBeVisible();

  await page.goto('/today');
  await page.getByRole('button', { name: 'Start this run' }).click();
  await expect(page.locator('.ag-row').first()).toContainText('Ashgrove, Quentin', { timeout: 20_000 });
  await expect(page.getByRole('contentinfo', { name: 'Totals of the run' })).toContainText('960.00');
  await page.getByRole('button', { name: 'Approve run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Approve run' }).click();
  await expect(page.getByText('Posted', { exact: true })).toBeVisible();

  // Nothing of one employer is seen in another.
  await page.goto('/people');
  await expect(page.locator('.ag-row')).toHaveCount(1);
  await page.getByRole('button', { name: /^Employer:/ }).click();
  await page.getByRole('button', { name: 'Quillmere Glassworks' }).click();
  await page.goto('/people');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  await expect(page.getByText('Ashgrove')).toBeHidden();
});

test('an administrator lets somebody work here, and sees what a schedule would give before saving it', async ({ page }) => {
  await signIn(page, 'admin');
  await page.getByRole('button', { name: /^Employer:/ }).click();
  await page.getByRole('button', { name: 'Quillmere Glassworks' }).click();
  await page.goto('/employer');
  await page.getByRole('button', { name: 'Add a user' }).click();
  await page.getByLabel('E-mail').fill('second.clerk@quillmere.example');
  await page.getByLabel('Name', { exact: true }).fill('Ottilie Brandreth');
  await page.getByRole('button', { name: 'Invite user' }).click();
  await expect(page.getByText('Ottilie Brandreth is invited')).toBeVisible();
  await page.getByRole('button', { name: 'Change Biweekly' }).click();
  await page.getByLabel('Paid so many days after').fill('4');
  await page.getByRole('button', { name: 'Save the schedule' }).click();
  await expect(page.getByRole('alert')).toContainText('its dates stay');
});
