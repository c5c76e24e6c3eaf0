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
/** A run of a period of one's own choosing, as a clerk who comes to a year's end has it from the weeks before. */
const beginRun = (from: string, to: string, payDate: string): Promise<string> =>
  page.evaluate(
    async (period) => {
      const json = async (path: string) => (await fetch(`/api${path}`)).json() as Promise<Record<string, never>>;
      const { employers, csrfToken } = (await json('/session')) as unknown as {
        employers: { id: string; name: string }[];
        csrfToken: string;
      };
      const at = `/employers/${employers.find(({ name }) => name === 'Glanmor Pottery')?.id ?? ''}`;
      const { schedules } = (await json(at)) as unknown as { schedules: { id: string }[] };
      const answer = await fetch(`/api${at}/pay-runs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
        body: JSON.stringify({ scheduleId: schedules[0]?.id, ...period }),
      });
      return ((await answer.json()) as { id: string }).id;
    },
    { from, to, payDate },
  );
const moveTo = async (date: string) => {
  await page.getByRole('button', { name: 'Business date' }).click();
  await page.getByLabel("Move the demo's business date to").fill(date);
  await page.getByRole('button', { name: 'Move the date' }).click();
  await page.waitForTimeout(800);
};

test('an employer in Wales is set up from nothing, with every wrong number told', async () => {
  await page.getByRole('button', { name: /^Employer:/ }).click();
  await page.getByRole('link', { name: 'Begin a new employer …' }).click();
  await page.getByLabel('Legal name').fill('Glanmor Pottery');
  await page.getByLabel('Country').selectOption({ label: 'United Kingdom' });
  await page.getByRole('button', { name: 'Add employer' }).click();
  await expect(page.getByText('Before the first run')).toBeVisible();

  await page.getByRole('button', { name: 'No address' }).click();
  await page.getByLabel('Street').fill('4 Kiln Row');
  await page.getByLabel('Town or city').fill('Glanmor');
  await page.getByLabel('Postcode').fill('SA99 2BD');
  await page.getByLabel('Signs returns').fill('Elin Glanmor');
  await page.getByRole('button', { name: 'Save who it is' }).click();
  await expect(page.getByRole('button', { name: 'No address' })).toBeHidden();

  await page.getByRole('button', { name: 'PAYE reference missing' }).click();
  await page.getByLabel('PAYE reference').fill('946-GP7');
  await page.getByLabel('Accounts Office reference').fill('946PA00077710');
  await page.getByLabel('Duties for workplace pensions since').fill('2026-11-01');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByRole('alert')).toContainText('not as it is written on its notice');
  await page.getByLabel('PAYE reference').fill('946/GP7');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Save the registrations' }).click();
  await expect(page.getByText('946/GP7').first()).toBeVisible();
});

test('a schedule by the week, an account, items and a starter with declaration B', async () => {
  await setUpFromNothing(page, {
    schedule: { daysToPay: '1' },
    account: { bank: 'Bank of Glanmor', codeLabel: 'Sort code', code: '309912' },
    item: 'Hourly pay',
    person: { code: 'G1', givenNames: 'Tegwen', familyName: 'Ashgrove', born: '1990-05-06', hours: '40' },
    rate: '15.00',
  });
  await page.getByRole('button', { name: 'no tax details' }).click();
  await page.getByLabel(/^Tax code/).fill('C1257Q');
  await page.getByLabel('From').last().fill('2026-11-16');
  await page.getByLabel('Basis').selectOption({ label: 'Week 1 / month 1' });
  await page.getByLabel(/declaration/i).selectOption({ value: 'B' });
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByRole('alert').first()).toContainText('a code such as 1257L');
  await page.getByLabel(/^Tax code/).fill('C1257L');
  await page.getByRole('button', { name: 'Save from this date on' }).click();
  await expect(page.getByText(/In force from/)).toBeVisible();
});

test('the first run asks who is to be enrolled; a scheme is added, postponed and then enrolled', async () => {
  await page.goto('/today');
  await page.getByRole('button', { name: 'Start this run' }).click();
  await expect(page.locator('.ag-row').first()).toContainText('Ashgrove, Tegwen', { timeout: 20_000 });
  await page.getByRole('button', { name: 'Look at 1 open point' }).click();
  await expect(page.getByText(/Eligible jobholder: to be enrolled from 23 Nov 2026/).first()).toBeVisible();
  await page.goto('/people/enrolment');
  await page.getByRole('button', { name: 'Add a scheme' }).click();
  await page.getByLabel('Name of the scheme').fill('Cynilion Glanmor');
  await page.getByLabel('Provider').fill('Penfro Mutual Savings');
  await page.getByLabel("Employer's reference there").fill('PMS-30001');
  await page.getByRole('button', { name: 'Add the scheme and its pay items' }).click();
  await expect(page.getByText('PMS-30001')).toBeVisible();

  await page.getByLabel('Choose Ashgrove, Tegwen').check();
  await page.getByRole('button', { name: 'Postpone …' }).click();
  await page.getByLabel('Last day').fill('2027-03-01');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(page.getByRole('alert')).toContainText('put off until 23 Feb 2027 at most');
  await page.getByLabel('Last day').fill('2027-02-23');
  await page.getByRole('button', { name: 'Show what it changes' }).click();
  await page.getByRole('button', { name: 'Postpone: 1 person' }).click();
  await expect(page.getByText('Letter: Your enrolment into a workplace pension is postponed')).toBeVisible();

  await page.getByRole('button', { name: 'Ashgrove, Tegwen' }).first().click();
  const one = page.locator('wr-enrolment-person');
  await one.getByRole('button', { name: 'Enrol …' }).click();
  await one.getByLabel('Because').selectOption({ label: 'asked to opt in' });
  await one.getByLabel('Member from').fill('2026-11-23');
  await one.getByRole('button', { name: 'Show what it changes' }).click();
  // 600.00 less 120.00 of the week: 5 per cent is 24.00, and 4.80 less tax.
  await expect(one.getByText('Tegwen Ashgrove')).toBeVisible();
  await one.getByRole('button', { name: 'Enrol: 1 person' }).click();
  await expect(page.getByText(/In Cynilion Glanmor since 23 Nov 2026, opted in/).first()).toBeVisible();

  await page.goto('/today');
  await page.getByRole('link', { name: 'Go on with it' }).click();
  await page.getByRole('button', { name: 'Look at 1 open point' }).click();
  await page
    .getByRole('button', { name: /^Recalculate/ })
    .first()
    .click();
  // 5 per cent of 600.00 less 120.00 of the week.
  await expect(page.getByRole('contentinfo', { name: 'Totals of the run' })).toContainText('24.00');
  await approveRun(page);
});

test('the pay day is reported: refused without a number or an address in its place, corrected, accepted', async () => {
  await page.goto('/filings/fps/2026-11-30');
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByRole('alert').first()).toContainText('Tegwen Ashgrove has neither a number nor date of birth and address');

  await page.goto('/people');
  await page.getByText('Ashgrove, Tegwen').click();
  await page.getByRole('button', { name: 'no national number' }).click();
  await page.getByLabel('National Insurance number').fill('BG 12 34 56 A');
  await page.getByRole('button', { name: 'Save the number' }).click();
  await expect(page.getByRole('alert')).toContainText('number cannot exist');
  await page.getByLabel('National Insurance number').fill('AB 30 40 50 A');
  await page.getByRole('button', { name: 'Save the number' }).click();
  await expect(page.getByText('•••••050A')).toBeVisible();

  await page.goto('/filings/fps/2026-11-30');
  await act('Prepare …', 'Prepare it');
  await act('Agree …', 'I agree');
  await act('File …', 'Send it');
  await expect(page.getByText('accepted', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'The file', exact: true }).last().click();
  await expect(page.getByRole('region', { name: 'The file as it was sent' })).toContainText('<StartDec>B</StartDec>');
});

test('who opts out within the month gets the contributions back with the next pay', async () => {
  await page.goto('/people/enrolment');
  await page.getByRole('button', { name: 'Ashgrove, Tegwen' }).first().click();
  const one = page.locator('wr-enrolment-person');
  await one.getByRole('button', { name: 'Opt out …' }).click();
  await one.getByLabel('Reference of the notice').fill('PMS-OUT-1');
  await one.getByRole('button', { name: 'Show what it changes' }).click();
  await expect(one.getByRole('alert')).toContainText('Mark the letter as given');
  await one.getByRole('button', { name: 'Cancel' }).click();
  await one.getByRole('button', { name: 'Mark a letter as given …' }).click();
  await one.getByRole('button', { name: 'Mark a letter as given: 1 person' }).click();
  await expect(one.getByText('may opt out until')).toBeVisible();
  await one.getByRole('button', { name: 'Opt out …' }).click();
  await one.getByLabel('Reference of the notice').fill('PMS-OUT-1');
  await one.getByRole('button', { name: 'Show what it changes' }).click();
  await one.getByRole('button', { name: 'Opt out: 1 person' }).click();
  await expect(page.getByText('Opted out on 23 Nov 2026').first()).toBeVisible();
  await page.goto('/pay-runs/one-offs');
  await expect(page.getByText('Opted out, reference PMS-OUT-1: given back').first()).toBeVisible();
  await page.goto('/today');
  await page.getByRole('button', { name: 'Start this run' }).click();
  // 5 per cent of 480.00, taken once and given back.
  await expect(page.getByRole('contentinfo', { name: 'Totals of the run' })).toContainText('−24.00', { timeout: 20_000 });
  await acceptAll(page);
  await approveRun(page);
});

test('the year is closed with week 53, whose pay has tables of its own', async () => {
  await moveTo('2027-04-01');
  await page.goto('/today');
  await page.goto(`/pay-runs/${await beginRun('2027-03-29', '2027-04-04', '2027-04-05')}`);
  await expect(page.locator('.ag-row').first()).toContainText('Ashgrove, Tegwen', { timeout: 20_000 });
  await page.locator('.ag-row').first().locator('[col-id="taxes"]').click();
  await page
    .getByRole('button', { name: /Income tax \(PAYE\)/ })
    .first()
    .click();
  await expect(page.getByText(/week 53, by itself/)).toBeVisible();
  await acceptAll(page);
  await approveRun(page);
  await page.goto('/filings/year/2026-27');
  await expect(page.getByText(/Weekly is paid on 5 Apr 2027: an extra pay period, week 53/)).toBeVisible();
  await moveTo('2027-04-20');
  await page.goto('/filings/p60/2026-27');
  await act('Prepare …', 'Prepare it');
  await expect(page.getByText('Ashgrove').first()).toBeVisible();
});
