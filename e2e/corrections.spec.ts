import { demo } from './demo-figures.ts';
import { expect, test } from './own-project.ts';

test('a fact that the file has wrong is corrected, listed for the designers, and taken back in one step', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/model`);
  await expect(page.getByTestId('plan-total').or(page.locator('canvas')).first()).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('dialog').getByRole('combobox').fill('mooring pier');
  await page.getByRole('option', { name: /Mooring pier/ }).click();
  const sheet = page.getByTestId('element-sheet');
  await expect(sheet).toContainText('Mooring pier');
  // The pier is drawn by its faces: 3 / 3 x (1.6² + 0.8² + 1.6 x 0.8) = 4.48 m3, marked as of the mesh.
  await expect(sheet.getByLabel('from the mesh').first()).toBeVisible();
  await expect(sheet).toContainText('4.480');
  const storey = sheet.getByRole('combobox', { name: 'Storey' });
  await expect(storey).toHaveValue('Ground floor');
  await storey.fill('Foundations');
  await storey.press('Enter');
  await expect(sheet).toContainText('in the file: Ground floor');
  await expect(sheet).toContainText(/corrected by \w+ \d+/);
  await page.goto(`${own}/findings`);
  const list = page.getByRole('region', { name: 'Corrected here' });
  await expect(list).toContainText('Mooring pier: Storey Foundations, in the file Ground floor');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    list.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const text = await (await file.createReadStream())
    .setEncoding('utf8')
    .reduce((all: string, part: string) => all + part, '');
  expect(text).toMatch(/IfcBuildingElementProxy,Mooring pier,Storey,Ground floor,Foundations,\w+ \d+/);
  await list.getByRole('button', { name: 'Withdraw', exact: true }).click();
  await expect(list).toBeHidden();
});

test('findings of one cause are one line, accepted together', async ({ page, own }) => {
  await page.goto(`${own}/findings`);
  const line = page.getByRole('listitem').filter({ hasText: 'Mineral quilt' }).first();
  await expect(line).toContainText('and 19 more like it');
  await line.getByRole('button', { name: 'List them' }).click();
  await expect(line.getByRole('listitem')).toHaveCount(20);
  await line.getByRole('button', { name: 'Accept' }).click();
  await page.getByRole('textbox', { name: 'Reason' }).fill('Weighed by hand');
  await page.keyboard.press('Enter');
  await expect(line).toContainText('accepted: Weighed by hand');
  await line.getByRole('button', { name: 'Open again' }).click();
  await expect(line).not.toContainText('accepted');
});

test('a threshold of the checks is set by the project: what the frame shares with the walls stays out of sight', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/settings`);
  const field = page.getByRole('textbox', { name: 'Stated against measured, %' });
  await field.fill('95');
  await field.press('Enter');
  // 158.4 stated against 15.84 differs by 900 %.
  await page.goto(`${own}/findings`);
  await expect(page.getByText('Side area, net 158.4 stated')).toBeVisible();
  await expect(page.getByText(/of the smaller one/)).toHaveCount(0);
  await page.goto(`${own}/settings`);
  await page.getByRole('textbox', { name: 'Stated against measured, %' }).fill('1');
  await page.keyboard.press('Enter');
});

test('what is counted twice is told with its money, and settled in one step that undo takes back', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/findings`);
  const row = page.getByRole('listitem').filter({ hasText: 'stand in one place and are both priced' });
  // One of the two columns is worth 2,037.22.
  await expect(row).toContainText('2,037.22 EUR');
  await row.getByRole('button', { name: 'Leave one out' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(-2037.22));
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await expect(row).toContainText('2,037.22 EUR');
});
