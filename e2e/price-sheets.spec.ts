import { expect, type Page, test } from '@playwright/test';
import { makeProject } from './make-project.ts';

/** Makes a project with the demo's book and opens its price sheets. */
async function openSheets(page: Page, name: string): Promise<void> {
  await makeProject(page, name);
  await page.getByRole('link', { name: 'Book', exact: true }).click();
  await page.getByRole('tab', { name: /Price sheets/ }).click();
}

const bring = (page: Page, name: string, text: string) =>
  page.getByLabel('Price sheet file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('a sheet of 200,000 rows is taken over whole, as one change', async ({ page }) => {
  test.setTimeout(360_000);
  await openSheets(page, 'Large list');
  const rows = Array.from({ length: 200_000 }, (_, i) => `Y-${i};Thing ${i} of the yard;m;${(i % 900) + 1},25`);
  await bring(page, 'large.csv', ['Code;Description;Unit;Price', 'M-LOCK;Locker;pcs;130,00', ...rows].join('\n'));
  const sheet = page.getByRole('region', { name: 'Price sheet' });
  await sheet.getByRole('button', { name: 'Compare with the book' }).click({ timeout: 60_000 });
  await sheet.getByRole('tab', { name: 'New 200000' }).click({ timeout: 60_000 });
  await sheet.getByRole('grid', { name: 'New prices' }).getByRole('columnheader', { name: 'All' }).click();
  await sheet.getByRole('button', { name: 'Take 200001 over' }).click({ timeout: 150_000 });
  await expect(page.getByRole('list', { name: 'Price sheets' })).toContainText(
    '200001 items have their price from it',
    {
      timeout: 150_000,
    },
  );
  await expect(page.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first()).toContainText(
    'Prices from large: 1 changed, 200000 new',
  );
  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('Thing 199999');
  // 199,999 is 222 x 900 + 199: 200.25.
  await expect(page.getByRole('row', { name: /Y-199999/ })).toContainText('200.25');
});

test('a sheet whose decimals nothing tells is asked about, and read as it is said', async ({ page }) => {
  await openSheets(page, 'Unclear list');
  await bring(page, 'timber.csv', 'Code;Unit;Price\nM-SAWN;m3;1.234\nM-GLU;m3;1.450\n');
  const sheet = page.getByRole('region', { name: 'Price sheet' });
  await expect(sheet.getByRole('combobox', { name: 'Sign before decimals' })).toContainText('Not told by the sheet');
  await sheet.getByRole('button', { name: 'Compare with the book' }).click();
  await expect(sheet.getByRole('alert')).toContainText('could be read in two ways');
  await expect(sheet.getByRole('button', { name: 'Take 2 over' })).toBeDisabled();
  await sheet.getByRole('combobox', { name: 'Sign before decimals' }).click();
  await page.getByRole('option', { name: 'Comma, 1.234,50' }).click();
  await expect(sheet.getByRole('row', { name: /M-SAWN/ })).toContainText('1,234.00');
  await sheet.getByRole('button', { name: 'Take 2 over' }).click();
  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('M-SAWN');
  await expect(page.getByRole('row', { name: /M-SAWN/ })).toContainText('1,234.00');
});

test('figures are shown and read in the way that the person chose', async ({ page }) => {
  await openSheets(page, 'Own figures');
  await page.getByRole('button', { name: /^Person/ }).click();
  await page.getByRole('menuitemradio', { name: '1.234,50' }).click();
  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  await expect(row).toContainText('128,00');
  await row.getByText('128,00').dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('1.250');
  await page.keyboard.press('Enter');
  await expect(row).toContainText('1.250,00');
  await page.reload();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  await expect(row).toContainText('1.250,00');
  await row.getByText('1.250,00').dblclick();
  // It is given to be edited as it is read back.
  await expect(row.getByRole('textbox')).toHaveValue('1250');
});

test('a cell whose change is refused says why and keeps what was typed', async ({ page }) => {
  await openSheets(page, 'Refused');
  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  const problem = { status: 507, code: 'disk-full', detail: 'The disk is full.', remedy: 'Make room on it.' };
  await page.route('**/changes', (route) =>
    route.request().method() === 'POST'
      ? route.fulfill({ status: 507, contentType: 'application/problem+json', body: JSON.stringify(problem) })
      : route.continue(),
  );
  await row.getByText('128.00').dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('133.70');
  await page.keyboard.press('Enter');
  await expect(row.getByRole('textbox')).toHaveValue('133.70');
  await expect(page.getByText('The disk is full. Make room on it.').first()).toBeVisible();
  // When it goes again the same Enter saves it.
  await page.unroute('**/changes');
  await row.getByRole('textbox').press('Enter');
  await expect(row.getByText('133.70')).toBeVisible();
  await expect(row.getByRole('textbox')).toHaveCount(0);
});
