import { expect, test } from '@playwright/test';
import { signIn } from './desk';

test('an employee is invited by mail, sees payslips that explain themselves, asks for leave, and gets nowhere else', async ({
  browser,
}) => {
  const office = await browser.newPage();
  await signIn(office);
  await office.goto('/people');
  await office.getByText('Ketteridge, Jonas').click();
  await office.getByRole('button', { name: 'Invite to their own view' }).click();
  await expect(office.getByText('Invited: the letter is in the outbox.')).toBeVisible();
  await office.goto('/outbox');
  const letter = (await office
    .getByText(/first password/)
    .first()
    .textContent())!;
  const [, email = ''] = /address (\S+) and/.exec(letter)!;
  const [, password = ''] = /password (\S+?)\.\s*$/.exec(letter.trim())!;

  const page = await browser.newPage();
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/own');
  await page.getByRole('button', { name: '13 Nov 2026' }).click();
  const payslip = page.getByLabel('Payslip', { exact: true });
  await expect(payslip.getByRole('button', { name: 'Net pay' })).toBeVisible();
  if (process.env['PICTURES']) await page.screenshot({ path: new URL('../docs/screenshots/own.png', import.meta.url).pathname });
  await payslip.getByRole('button', { name: 'Social security' }).click();
  await expect(payslip).toContainText('6.20%');
  await page.getByRole('button', { name: 'Ask for leave' }).click();
  await page.getByLabel('First day').fill('2026-12-28');
  await page.getByLabel('Last day').fill('2026-12-29');
  await page.getByRole('button', { name: 'Ask for 2 days' }).click();
  await expect(page.getByText('asked, to be decided')).toBeVisible();
  await page.goto('/people');
  await page.waitForURL('**/own');

  await office.goto('/time/leave');
  await expect(office.getByRole('row', { name: /Jonas Ketteridge.*to be decided/ })).toBeVisible();
  await office.close();
  await page.close();
});
