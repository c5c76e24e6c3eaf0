import { expect, test, type Page } from '@playwright/test';
import { acceptAll, approveRun, setUpFromNothing, signIn } from './desk';

test.describe.configure({ mode: 'serial' });

let page: Page;
test.beforeAll(async ({ browser, baseURL }) => {
  page = await browser.newPage(baseURL ? { baseURL } : {});
  await signIn(page, 'admin');
});
test.afterAll(() => page.close());

const act = async (name: string, end: string) => {
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: end, exact: true }).click();
};

test('an employer in Victoria is set up from nothing, with every wrong number told', async () => {
  await page.getByRole('button', { name: /^Employer:/ }).click();
  await page.getByRole('link', { name: 'Begin a new employer …' }).click();
  await page.getByLabel('Legal name').fill('Wattle Reach Candles Pty Ltd');
  await page.getByLabel('Country').selectOption({ label: 'Australia' });
  await page.getByRole('button', { name: 'Add employer' }).click();
  await expect(page.getByText('Before the first run')).toBeVisible();

  await page.getByRole('button', { name: 'No address' }).click();
  await page.getByLabel('Street').fill('7 Wick Lane');
  await page.getByLabel('Suburb or town').fill('Wattle Reach');
  await page.getByLabel('State', { exact: true }).fill('VIC');
  await page.getByLabel('Postcode').fill('3999');
  await page.getByLabel('Signs returns').fill('Orla Candlish');
  await page.getByRole('button', { name: 'Save who it is' }).click();
  await expect(page.getByRole('button', { name: 'No address' })).toBeHidden();

  await page.getByRole('button', { name: 'Australian business number (ABN) missing' }).click();
  await page.getByLabel('Australian business number (ABN)').fill('51824753557');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('Expected a business number of eleven figures whose check digits are right')).toBeVisible();
  await page.getByLabel('Australian business number (ABN)').fill('51824753556');
  await page.getByLabel('Withholding branch').fill('12A');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByText('Expected a branch of at most three figures, such as 1 or 002')).toBeVisible();
  await page.getByLabel('Withholding branch').fill('2');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Save the registrations' }).click();
  await expect(page.getByText('51824753556').first()).toBeVisible();
});

test('a schedule, an account with a BSB, items and somebody to pay', async () => {
  await setUpFromNothing(page, {
    schedule: { daysToPay: '2' },
    account: { bank: 'NAB', codeLabel: 'BSB', code: '083-001' },
    item: 'Ordinary hours',
    person: { code: 'W1', givenNames: 'Petra', familyName: 'Lumley', hours: '38' },
    rate: '30.00',
  });
  await page.getByRole('button', { name: 'no tax details' }).click();
  await page.getByLabel('In force from').fill('2026-11-16');
  await page.getByLabel('State or territory').selectOption({ label: 'Victoria' });
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText(/In force from/)).toBeVisible();
});

test('the first run: withholding by scale 2, super with the pay day', async () => {
  await page.goto('/today');
  await page.getByRole('button', { name: 'Start this run' }).click();
  await expect(page.locator('.ag-row').first()).toContainText('Lumley, Petra', { timeout: 20_000 });
  // 38 × 30.00: 1,140.99 at 32.27 per cent less 185.1935.
  await expect(page.locator('.ag-row').first().locator('[col-id="taxes"]')).toContainText('183.00');
  await page.getByRole('button', { name: /^Look at \d open point/ }).click();
  await expect(page.getByText(/No super fund/).first()).toBeVisible();
  await acceptAll(page);
  await approveRun(page);
});

test('the pay event is refused for what is missing, corrected, and accepted', async () => {
  await page.goto('/filings/pay-event/2026-12-01');
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByRole('alert').first()).toContainText('Petra Lumley has no date of birth');
  await expect(page.getByRole('alert').first()).toContainText('Petra Lumley has no full address');

  await page.goto('/people');
  await page.getByText('Lumley, Petra').click();
  await page.getByRole('button', { name: 'no national number' }).click();
  await page.getByLabel('Tax file number').first().fill('123 456 789');
  await page.getByRole('button', { name: 'Save the number' }).click();
  await expect(page.getByRole('alert')).toContainText('tax file number cannot exist');
  await page.getByLabel('Tax file number').first().fill('123 456 782');
  await page.getByRole('button', { name: 'Save the number' }).click();
  await expect(page.getByText('••• ••6 782')).toBeVisible();
  const details = page.locator('wr-person-facts-form');
  await page.getByRole('button', { name: 'Change: Details' }).click();
  await details.getByLabel('Date of birth').fill('1988-04-14');
  await details.getByLabel('Street').fill('12 Tallow Street');
  await details.getByLabel('Suburb or town').fill('Wattle Reach');
  await details.getByLabel('State', { exact: true }).fill('VIC');
  await details.getByLabel('Postcode').fill('3999');
  await details.getByRole('button', { name: /^Save/ }).click();
  await expect(page.getByText('12 Tallow Street').first()).toBeVisible();

  await page.goto('/filings/pay-event/2026-12-01');
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByText('accepted', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  const file = page.getByRole('region', { name: 'The file as it was sent' });
  await expect(file).toContainText('<TaxFileNumberId>123456782</TaxFileNumberId>');
  await expect(file).toContainText('<GrossA>1140.00</GrossA>');
  await expect(file).toContainText('<OrganisationDetailsOrganisationBranchC>002</OrganisationDetailsOrganisationBranchC>');
});
