import { readFileSync } from 'node:fs';
import { readSheets } from '@tally/files';
import { demo } from './demo-figures.ts';
import { findRow } from './find-row.ts';
import { expect, test } from './own-project.ts';

test('the demo opens with its building, its total and its plan', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Heron Wharf Boathouse/ }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await expect(page.getByTestId('tape-open')).toHaveText(/Not fully priced\s*16 of 443/);
  await expect(page.getByTestId('model-view').locator('canvas')).toBeVisible();
  await page.getByRole('link', { name: 'Plan' }).click();
  await expect(page.getByTestId('plan-total')).toHaveText(demo());
  // 443 elements are to be priced, 16 are not: the total is told as of the others only.
  const whole = page.getByTestId('plan-total-name');
  await expect(whole).toHaveText(
    'Total so far: 16 of 443 elements are not fully priced (8 Furniture, 4 Space, 2 Window, 2 Member)',
  );
  // The total stays the same under any grouping.
  await page.getByRole('button', { name: 'By work section', exact: true }).click();
  await page.getByRole('menuitem', { name: 'By storey' }).click();
  await expect(page.getByRole('row', { name: /Ground floor/ })).toBeVisible();
  await expect(page.getByTestId('plan-total')).toHaveText(demo());
});

test('an element shows where its figures and its cost come from', async ({ page, own }) => {
  await page.goto(`${own}/model`);
  await page.getByPlaceholder('Find in the tree').fill('Block wall G4');
  await page.getByText('Block wall G4').first().click();
  const sheet = page.getByTestId('element-sheet');
  // (7.2 - 0.15) x 3.4 = 23.97 m2.
  await expect(sheet.getByText('23.97').first()).toBeVisible();
  await expect(page.getByTestId('element-cost')).toHaveText('2,228.35');
  await expect(page.getByTestId('tape-selection')).toHaveText('2,228.35');
  await sheet.getByRole('button', { name: /Concrete block/ }).click();
  await expect(sheet.getByText('23.97 m² * 10 each/m²')).toBeVisible();
  await expect(sheet.getByText(/Price list spring 2026/).first()).toBeVisible();
});

test('a plan line finds its elements in the model', async ({ page, own }) => {
  await page.goto(`${own}/plan`);
  await expect(page.getByTestId('plan-total')).toHaveText(demo());
  await (await findRow(page, page.getByRole('treegrid', { name: 'Plan' }), /M-LOCK/)).click();
  await expect(page.getByText('Selected: 24 elements')).toBeVisible();
  // 24 lockers at 128.00.
  await expect(page.getByTestId('tape-selection')).toHaveText('3,072.00');
  await page.getByRole('button', { name: 'Show in the model' }).click();
  await expect(page).toHaveURL(/\/model$/);
  await expect(page.getByRole('heading', { name: '24 elements' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Nothing selected')).toBeVisible();
});

test('the plan is saved as CSV whose amounts add up', async ({ page, own }) => {
  await page.goto(`${own}/plan`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as CSV' }).click(),
  ]);
  const lines = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(lines[0]).toContain('Work section,Item,Description');
  expect(lines.at(-1)).toContain(demo().replace(',', ''));
  expect(lines.at(-1)).toContain('Total so far: 16 of 443 elements are not fully priced');
  const [sheet] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as XLSX' }).click(),
  ]);
  const read = await readSheets(await sheet.path());
  if (!read.ok) throw new Error(read.problem.message);
  expect(String(read.value[0]!.rows.at(-1)![0])).toContain('Total so far: 16 of 443');
});

test('anything is found from the keyboard', async ({ page, own }) => {
  await page.goto(`${own}/plan`);
  await expect(page.getByTestId('plan-total')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('slate roof');
  await page.getByRole('option', { name: 'Slate roof A-SLATE' }).click();
  await expect(page).toHaveURL(/book\?assembly=A-SLATE/);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').last().fill('crane hour');
  await page.getByRole('option', { name: /Crane hour/ }).click();
  await expect(page.getByRole('region', { name: 'Named value' })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('the checks of the model are told in words and lead to the elements', async ({ page, own }) => {
  await page.goto(`${own}/sources`);
  const finding = page.getByRole('listitem').filter({ hasText: 'Counted twice' }).first();
  await expect(finding).toContainText('Column 3A');
  await finding.getByRole('button', { name: 'Show' }).click();
  await expect(page.getByRole('heading', { name: '2 elements' })).toBeVisible();
});
