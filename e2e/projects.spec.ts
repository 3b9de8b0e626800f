import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { makeProject } from './make-project.ts';

const inUse = (page: Page) => page.getByRole('list', { name: 'Projects', exact: true });

test('a project is renamed, duplicated, put away and brought back; the list follows in another page', async ({
  page,
  context,
}) => {
  await makeProject(page, 'Slipway crane');
  const other = await context.newPage();
  await other.goto('/');
  await expect(inUse(other).getByRole('link', { name: /Slipway crane/ })).toBeVisible();
  await page.goto('/');
  const menu = async (of: string, what: string) => {
    await page.getByRole('button', { name: `More about ${of}`, exact: true }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
  };
  await menu('Slipway crane', 'Rename');
  await page.getByRole('dialog').getByLabel('Name').fill('Slipway crane, east');
  await page.getByRole('dialog').getByRole('button', { name: 'Rename' }).click();
  await expect(inUse(other).getByRole('link', { name: /Slipway crane, east/ })).toBeVisible();
  await menu('Slipway crane, east', 'Duplicate');
  await page.getByRole('dialog').getByRole('button', { name: 'Duplicate' }).click();
  const copy = inUse(page).getByRole('link', { name: /Slipway crane, east, copy/ });
  await expect(copy).toContainText('Copied from Slipway crane, east');
  await menu('Slipway crane, east, copy', 'Put away');
  await expect(copy).toHaveCount(0);
  await page.getByRole('button', { name: /Put away \d/ }).click();
  await menu('Slipway crane, east, copy', 'Bring back');
  await expect(copy).toBeVisible();
});

test('the rules and book of a project go out as a template and into another one', async ({ page }) => {
  await makeProject(page, 'Gives its rules');
  await page.getByRole('link', { name: 'Book', exact: true }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  await row.getByText('128.00').dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('131.50');
  await page.keyboard.press('Enter');
  await expect(row).toContainText('131.50');
  await page.goto('/');
  await page.getByRole('button', { name: 'More about Gives its rules' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save its rules and book as a template' }).click(),
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({ format: 'crisp-tally-template/1', name: 'Gives its rules' });

  const priceIn = async (name: string) => {
    await page.getByRole('link', { name: 'Book', exact: true }).click();
    await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
    await expect(page.getByRole('row', { name: /M-LOCK/ }), name).toContainText('131.50');
  };
  await makeProject(page, 'Takes them', 'As in Gives its rules');
  await priceIn('as in the other');
  await page.goto('/');
  await page.getByLabel('Name').fill('Takes the file');
  await page.getByRole('combobox', { name: 'Rules and book' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('option', { name: 'From a template file' }).click();
  await (await chooser).setFiles({ name: 't.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByText('t.json')).toBeVisible();
  await page.getByRole('button', { name: 'Make project' }).click();
  await expect(page).toHaveURL(/\/sources$/);
  await priceIn('from the file');
});

test('a stopped import is started again, and a picture that was stopped is drawn again', async ({ page }) => {
  await makeProject(page, 'Stops and goes on');
  await expect(page.getByTestId('drop-folder')).toContainText('drop');
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R1' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await page.getByRole('link', { name: 'Sources' }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  const again = page.getByRole('button', { name: 'Start again' });
  const draw = page.getByRole('button', { name: 'Draw it again' });
  await expect(again.or(draw).first()).toBeVisible();
  if (await again.isVisible()) await again.click();
  else await draw.click();
  await expect(page.getByText(/IFC4, mm, 441 elements$/)).toBeVisible({ timeout: 60_000 });
});
