import { expect, test } from '@playwright/test';
import { PASSWORD } from './desk';

test('a passkey is added, asked for at the next sign-in, and removed', async ({ page, baseURL }) => {
  // Passkeys want a name, not a number.
  const at = baseURL!.replace('127.0.0.1', 'localhost');
  const browser = await page.context().newCDPSession(page);
  await browser.send('WebAuthn.enable');
  await browser.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  const fill = async () => {
    await page.goto(`${at}/sign-in`);
    await page.getByLabel('E-mail').fill('viewer@quillmere.example');
    await page.getByLabel('Password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Sign in' }).click();
  };
  await fill();
  await page.waitForURL('**/today');
  await page.goto(`${at}/account`);
  await page.getByRole('button', { name: 'Add passkey' }).click();
  await page.getByLabel('Name of the passkey').fill('Office laptop');
  await page.getByRole('textbox', { name: 'Password', exact: true }).fill('not the password');
  await page.getByRole('button', { name: 'Add passkey' }).click();
  await expect(page.getByRole('alert')).toContainText('The password is not right');
  await page.getByRole('textbox', { name: 'Password', exact: true }).fill(PASSWORD);
  await page.getByRole('button', { name: 'Add passkey' }).click();
  await expect(page.getByRole('status')).toContainText('Keep these recovery codes');
  await expect(page.getByRole('row').filter({ hasText: 'Office laptop' })).toContainText('Passkey, added');

  await page.context().clearCookies();
  await fill();
  await expect(page.getByRole('alert')).toContainText('Use your passkey, or enter one of your recovery codes.');
  await page.getByRole('button', { name: 'Use passkey' }).click();
  await page.waitForURL('**/today');

  await page.goto(`${at}/account`);
  await page.getByRole('button', { name: 'Remove passkey' }).click();
  await page.getByRole('textbox', { name: 'Password', exact: true }).fill(PASSWORD);
  await page.getByRole('button', { name: 'Remove passkey' }).last().click();
  await expect(page.getByRole('row').filter({ hasText: 'Office laptop' })).toHaveCount(0);
  await page.context().clearCookies();
  await fill();
  await page.waitForURL('**/today');
});
