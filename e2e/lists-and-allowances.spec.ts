import { expect, type Page, test } from '@playwright/test';
import { makeProject } from './make-project.ts';

/** Makes a project with the demo's book and opens a place of it. */
async function openProject(page: Page, name: string, place: 'Sources' | 'Plan'): Promise<void> {
  await makeProject(page, name);
  await page.getByRole('link', { name: place, exact: true }).click();
}

const bringList = (page: Page, name: string, text: string) =>
  page.getByLabel('List file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
const total = (page: Page) => page.getByTestId('tape-total');

test('a list becomes a source whose lines price themselves; a newer one takes its place', async ({ page }) => {
  await openProject(page, 'Yard list', 'Sources');
  await bringList(
    page,
    'yard-1.csv',
    'Code;Text;Qty;Unit;Price\nM-LOCK;Locker;12;pcs;\nBENCH;Bench;4;each;210,50\nX;Sign;many;each;\n',
  );
  await expect(page.getByTestId('list-summary')).toHaveText('2 lines; the book knows the codes of 1, 1 have a price.');
  await expect(page.getByRole('region', { name: 'What would be taken' })).toContainText(
    'Row 4, X · Sign · many: "many" is no figure.',
  );
  await page.getByRole('checkbox', { name: /Prices of the list count/ }).check();
  await page.getByRole('button', { name: 'Take 2 lines' }).click();
  // 12 x 128.00 + 4 x 210.50.
  await expect(total(page)).toHaveText('2,378.00');
  await expect(page.getByText('2 lines', { exact: true })).toBeVisible();

  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('row', { name: /BENCH\s*Bench/ })).toContainText('842.00');
  await expect(page.getByRole('row', { name: /From lists/ })).toContainText('2,378.00');
  await page.getByRole('link', { name: 'Takeoff', exact: true }).click();
  await expect(page.getByRole('row', { name: /Bench/ }).first()).toBeVisible();

  await page.getByRole('link', { name: 'Sources', exact: true }).click();
  await bringList(page, 'yard-2.csv', 'Code;Text;Qty;Unit;Price\nM-LOCK;Locker;10;pcs;\nHOOK;Boat hook;6;each;9,00\n');
  await expect(page.getByTestId('list-summary')).toContainText(
    'Against the version before: 1 came, 1 went, 1 changed.',
  );
  await page.getByRole('button', { name: 'Take 2 lines' }).click();
  await expect(total(page)).toHaveText('1,334.00');
});

test('a list whose columns nobody knows asks for them, and keeps them', async ({ page }) => {
  await openProject(page, 'Odd list', 'Sources');
  await bringList(page, 'odd.csv', 'A;B;C\nM-LOCK;3;pcs\n');
  await expect(page.getByRole('region', { name: 'What would be taken' })).toContainText(
    'Say which column holds the quantity.',
  );
  for (const [column, holds] of [
    ['Column 1 holds', 'Code'],
    ['Column 2 holds', 'Quantity'],
    ['Column 3 holds', 'Unit'],
  ] as const) {
    await page.getByRole('combobox', { name: column }).click();
    await page.getByRole('option', { name: holds, exact: true }).click();
  }
  await page.getByRole('button', { name: 'Take 1 line' }).click();
  await expect(total(page)).toHaveText('384.00');
  await bringList(page, 'odd.csv', 'A;B;C\nM-LOCK;5;pcs\n');
  await page.getByRole('button', { name: 'Take 1 line' }).click();
  await expect(total(page)).toHaveText('640.00');
});

test('costs without an object stand in the plan, and are undone like any change', async ({ page }) => {
  await openProject(page, 'Allowances', 'Plan');
  await page.getByRole('button', { name: 'Add costs without an object' }).click();
  await page.getByRole('button', { name: 'Add an allowance' }).click();
  await page.getByLabel('Name of AL-1').fill('Site cabin');
  await page.keyboard.press('Tab');
  await page.getByRole('combobox', { name: 'Site cabin goes by' }).click();
  await page.getByRole('option', { name: 'by the week' }).click();
  await page.getByLabel('How many of Site cabin').fill('26');
  await page.keyboard.press('Enter');
  await page.getByLabel('Rate of Site cabin').fill('much');
  await page.keyboard.press('Enter');
  await expect(page.getByText('"much" is no figure. Write e.g. 185.00.')).toBeVisible();
  await expect(page.getByLabel('Rate of Site cabin')).toHaveValue('much');
  await page.getByLabel('Rate of Site cabin').fill('185');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('allowance-total')).toHaveText('4,810.00');
  await expect(total(page)).toHaveText('4,810.00');
  await page.getByRole('button', { name: 'Lines' }).click();
  await expect(page.getByRole('row', { name: /AL-1\s*Site cabin/ })).toContainText('26.00');
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(total(page)).toHaveText('0.00');
});
