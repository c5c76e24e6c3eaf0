import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { signIn } from './desk';

const HEAD = 'Employee number,First name,Last name,Start date,Dept,Pay schedule,Rate,Per';
const csv = (...rows: string[]) => ({ name: 'joiners.csv', mimeType: 'text/csv', buffer: Buffer.from([HEAD, ...rows].join('\n')) });

test('people come from a file with errors, fixed and chosen again; a third time it changes nothing', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  await page.getByRole('link', { name: 'From a file' }).click();
  const file = page.getByLabel('File of people');
  await file.setInputFiles(
    csv('F1,Lucinda,Harrowgate,11/30/2026,Gallery,Biweekly,21.50,hour', 'F2,Osbert,Pyne,30.11.2026,Foundry,Biweekly,zero,hour'),
  );
  await expect(page.getByText('3 cells are not taken')).toBeVisible();
  await expect(page.getByRole('row', { name: /3 Start date 30\.11\.2026 Write a date such as/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /There is no department “Foundry”/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing is imported yet' })).toBeDisabled();

  const fixed = csv('F1,Lucinda,Harrowgate,11/30/2026,Gallery,Biweekly,21.50,hour', 'F2,Osbert,Pyne,11/30/2026,Café,Biweekly,19.25,hour');
  await file.setInputFiles(fixed);
  await expect(page.getByText('2 new, 0 changed, 0 as they are.')).toBeVisible();
  await page.getByRole('button', { name: 'Import 2 people' }).click();
  await expect(page.getByText('2 people added, 0 changed, 0 as they were.')).toBeVisible();

  await file.setInputFiles(fixed);
  await expect(page.getByText('0 new, 0 changed, 2 as they are.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to import' })).toBeDisabled();
});

test('everybody goes out in the same format, and comes in again without a change', async ({ page }) => {
  await signIn(page);
  await page.goto('/people');
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'XLSX' }).click();
  const path = await (await waiting).path();
  await page.getByRole('link', { name: 'From a file' }).click();
  await page
    .getByLabel('File of people')
    .setInputFiles({ name: 'people.xlsx', mimeType: 'application/octet-stream', buffer: readFileSync(path) });
  await expect(page.getByText(/0 new, 0 changed, \d+ as they are\./)).toBeVisible();
});
