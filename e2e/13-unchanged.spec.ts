import { expect, test, type Locator, type Page } from '@playwright/test';
import { signIn } from './desk';
import { OwnServer } from './own-server';

let server: OwnServer;
test.beforeAll(async () => {
  server = await OwnServer.withDemo('woodruff_unchanged', 8493);
});
test.afterAll(() => server.stop());

test('pay that nothing has changed for takes at most six actions from Today to approved', async ({ browser }) => {
  const page = await browser.newPage({ baseURL: server.address });
  await signIn(page);
  let actions = 0;
  const click = async (name: string, within: Page | Locator = page) => {
    actions += 1;
    await within.getByRole('button', { name }).click();
  };
  await click('Start this run', page.getByRole('row').filter({ hasText: '16 – 30 Nov 2026, semimonthly' }));
  await page.waitForURL('**/pay-runs/*');
  await expect(page.getByRole('button', { name: 'Approve run' })).toBeVisible();
  await click('Approve run');
  await click('Approve run', page.getByRole('dialog'));
  await expect(page.getByRole('list', { name: 'Stages of the run' })).toContainText('by Odile Marchetti');
  expect(actions).toBeLessThanOrEqual(6);
  await page.close();
});
