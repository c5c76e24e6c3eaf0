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
  await expect(office.getByText('Only the addressee reads this letter.').first()).toBeVisible();
  // In the demo an administrator reads what the stand-in holds; elsewhere nobody but the addressee does.
  const administrator = await browser.newPage();
  await signIn(administrator, 'admin');
  await administrator.getByRole('button', { name: /^Employer:/ }).click();
  await administrator.getByRole('button', { name: 'Quillmere Glassworks' }).click();
  await administrator.goto('/outbox');
  const letter = (await administrator
    .getByText(/Accept within a week/)
    .first()
    .textContent())!;
  const [, link = ''] = /(\/link\/\S+)/.exec(letter)!;
  await administrator.close();

  const page = await browser.newPage();
  await page.goto(link);
  const email = (await page.getByText(/@/).textContent())!.trim().split(', ')[1]!;
  await page.getByLabel('Choose a password').fill('password12');
  await page.getByRole('button', { name: 'Accept the invitation' }).click();
  await expect(page.getByRole('alert')).toContainText('easy to guess');
  await page.getByLabel('Choose a password').fill('marble teapot lantern fog');
  await page.getByRole('button', { name: 'Accept the invitation' }).click();
  await page.getByRole('link', { name: 'Sign in' }).click();
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('marble teapot lantern fog');
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
  await page.getByRole('button', { name: 'Ask for a change', exact: true }).click();
  await page.getByLabel('Day').fill('2026-11-20');
  await page.getByLabel('Hours that it should be').fill('9.5');
  await page.getByLabel('Why').fill('Stayed for the kiln');
  await page.getByRole('button', { name: 'Ask for this change' }).click();
  await expect(page.getByRole('row', { name: /Fri 20 Nov 2026 9.50 hours asked/ })).toBeVisible();
  await page.goto('/people');
  await page.waitForURL('**/own');

  await office.goto('/today');
  await office.getByRole('link', { name: /A change of time asked for/ }).click();
  await office.locator('.ag-row').filter({ hasText: 'Ketteridge' }).locator('[col-id="person"]').click();
  await office.getByRole('button', { name: 'Accept the change of Fri 20 Nov 2026' }).click();
  await expect(office.getByText('as asked by the employee')).toBeHidden();
  await expect(office.getByLabel('Hours, line', { exact: false }).last()).toHaveValue('9.5');
  await page.reload();
  await expect(page.getByRole('row', { name: /Fri 20 Nov 2026 9.50 hours accepted/ })).toBeVisible();

  await office.goto('/time/leave');
  await expect(office.getByRole('row', { name: /Jonas Ketteridge.*to be decided/ })).toBeVisible();
  await office.close();
  await page.close();
});
