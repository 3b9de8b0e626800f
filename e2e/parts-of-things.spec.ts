import type { Page } from '@playwright/test';
import { expect, test } from './own-project.ts';

async function choose(page: Page, own: string, name: string): Promise<void> {
  await page.goto(`${own}/model`);
  await page.getByPlaceholder('Find in the tree').fill(name);
  await page.getByText(name, { exact: true }).first().click();
  await expect(page.getByTestId('element-sheet').getByRole('heading', { name })).toBeVisible();
}
const undo = (page: Page) => page.getByRole('button', { name: 'Undo' }).click();

test('a quantity is limited to what lies below a level', async ({ page, own }) => {
  await page.goto(`${own}/settings`);
  await page.getByRole('button', { name: 'Add a limit' }).click();
  await page.getByLabel('Name of the limit').fill('Plinth');
  await page.getByLabel('Below the level of').click();
  await page.getByRole('option', { name: 'Ground floor' }).click();
  await page.getByLabel('Below: plus').fill('30 cm');
  await page.getByRole('button', { name: 'Keep the limit' }).click();
  await expect(page.getByRole('region', { name: 'Limits' })).toContainText('below Ground floor + 0.30 m');

  await choose(page, own, 'Outer wall north G2');
  await page.getByRole('link', { name: 'Takeoff' }).click();
  await page.getByRole('checkbox', { name: 'Selection' }).check();
  const row = page.getByRole('row', { name: /Outer wall north G2/ });
  await expect(row).toContainText('15.84');
  await page.getByRole('combobox', { name: 'Within' }).click();
  await page.getByRole('option', { name: 'Within Plinth' }).click();
  // 4.8 x 0.3 m2, 0.3 m thick; the window lies higher. The wall is as long as ever.
  await expect(row).toContainText('1.44');
  await expect(row).toContainText('0.432');
  await expect(row).toContainText('4.80');
  await undo(page);
  await expect(row).toContainText('4.80');
});

test('an attribute with a unit counts as a quantity and adds up', async ({ page, own }) => {
  await choose(page, own, 'Outer wall north G2');
  await page.getByRole('combobox', { name: 'Attribute' }).fill('Render depth');
  const value = page.getByRole('textbox', { name: 'Value' });
  await value.fill('240 cm');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByTestId('element-sheet')).toContainText(/Render depth2\.40/);
  // A name that stands for something else is refused while it is typed.
  await page.getByRole('combobox', { name: 'Attribute' }).fill('Net volume');
  await value.fill('3 m2');
  await expect(page.getByText('NetVolume is a figure in m3')).toBeVisible();
  await undo(page);
  await expect(page.getByTestId('element-sheet')).not.toContainText('Render depth');
});

test('the walls of a room take tiles up to a height, the rest keeps its finish', async ({ page, own }) => {
  await choose(page, own, 'Showers A');
  await page.getByRole('button', { name: 'Another finish on a part of the walls' }).click();
  await page.getByLabel('Finish of the part').fill('Wall tiles');
  await page.getByLabel('Up to').fill('2.1 m');
  await page.getByRole('button', { name: 'Keep the part' }).click();
  await expect(page.getByRole('group', { name: 'Walls in parts' })).toContainText('Wall tiles up to 2.10 m');

  await page.getByRole('link', { name: 'Takeoff' }).click();
  await page.getByRole('combobox', { name: 'Table' }).click();
  await page.getByRole('option', { name: 'Room finishes' }).click();
  await page.getByRole('checkbox', { name: 'Selection' }).check();
  // 13.625 m round the room x 2.1 m less a door of 0.9 x 2.1 m; 44.435 m2 in all.
  await expect(page.getByRole('row', { name: /Wall tiles \(1\)/ })).toContainText('26.72');
  await expect(page.getByRole('row', { name: /wall \(2\)/ })).toContainText('44.43');
  await undo(page);
  await expect(page.getByRole('row', { name: /Wall tiles/ })).toBeHidden();
});

test('faces are chosen by hand and kept as a quantity of their element', async ({ page, own }) => {
  await page.goto(`${own}/model`);
  await expect(page.getByTestId('model-view').locator('canvas')).toBeVisible();
  await page.getByRole('button', { name: /Choose faces/ }).click();
  const panel = page.getByRole('form', { name: 'Chosen faces' });
  // A roof slab of one bay: 4.8 x 8.72 m. Until the picture is there a click meets nothing.
  await expect(async () => {
    await page.mouse.click(600, 330);
    await expect(panel.getByRole('status')).toHaveText('One face of one element, 41.86 m²', { timeout: 1000 });
  }).toPass();
  await panel.getByLabel('Kept as').fill('Moss killer area');
  await panel.getByRole('button', { name: 'Keep' }).click();
  await page.getByRole('button', { name: /Choose faces/ }).click();
  await page.mouse.click(600, 330);
  await expect(page.getByTestId('element-sheet')).toContainText(/Moss killer area≈41\.86/);
  await expect(page.getByTestId('element-sheet')).toContainText('one face chosen here');
  await undo(page);
  await expect(page.getByTestId('element-sheet')).not.toContainText('Moss killer area');
});

test('a column is shown in a unit and with decimals of its own', async ({ page, own }) => {
  await choose(page, own, 'Outer wall north G2');
  await page.getByRole('link', { name: 'Takeoff' }).click();
  await page.getByRole('checkbox', { name: 'Selection' }).check();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByLabel('Unit of Side area, net').click();
  await page.getByRole('option', { name: 'ft²' }).click();
  await page.getByLabel('Decimals of Side area, net').click();
  await page.getByRole('option', { name: '1', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Side area, net ft²' })).toBeVisible();
  // 15.84 m2 / 0.09290304.
  await expect(page.getByRole('row', { name: /Outer wall north G2/ })).toContainText('170.5');
});

test('junctions are looked for among the walls of one kind only', async ({ page, own }) => {
  await page.goto(`${own}/takeoff`);
  await page.getByRole('combobox', { name: 'Table' }).click();
  await page.getByRole('option', { name: 'How walls meet' }).click();
  await expect(page.getByRole('row', { name: /Total of 47/ })).toBeVisible();
  await page.getByRole('button', { name: 'Filter' }).click();
  await page.getByRole('button', { name: 'Show only some rows' }).click();
  await page.getByRole('combobox', { name: 'Field' }).click();
  await page.getByRole('option', { name: 'Type', exact: true }).click();
  await page.getByPlaceholder('Value').fill('Partition 125 wet');
  await page.keyboard.press('Tab');
  await page.getByRole('checkbox', { name: 'Among these walls only' }).check();
  await page.keyboard.press('Escape');
  // Alone, each of the four wet partitions ends free at both ends.
  const grid = page.getByRole('treegrid', { name: 'Takeoff' });
  await expect(grid.getByRole('row', { name: /^Partition 125 wet free end/ })).toHaveCount(2);
  await expect(grid.getByRole('row', { name: /Total of 8/ })).toBeVisible();
});

test('a filter is begun from the selected element, and a test is turned into its opposite', async ({ page, own }) => {
  await choose(page, own, 'Wet partition G8');
  await page.getByRole('link', { name: 'Takeoff' }).click();
  const total = page.getByRole('treegrid', { name: 'Takeoff' }).getByRole('row', { name: /^Total of/ });
  await expect(total).toContainText('Total of 453');
  await page.getByRole('button', { name: 'Filter' }).click();
  await page.getByRole('button', { name: 'Show only some rows' }).click();
  await page.getByRole('button', { name: 'Like the selected element' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('row', { name: /^Wet partition/ })).toHaveCount(4);
  await expect(total).not.toContainText('453');
  await page.getByRole('button', { name: 'Filter' }).click();
  // Everything of its class and materials but its type: walls with board and quilt of other types.
  await page.getByRole('combobox', { name: 'Test' }).nth(1).click();
  await page.getByRole('option', { name: 'is not', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('row', { name: /Partition 125 wet/ })).toHaveCount(0);
  await expect(page.getByRole('row', { name: /Partition 100/ }).first()).toBeVisible();
});

test('the building is cut open from a side', async ({ page, own }) => {
  await page.goto(`${own}/model`);
  await expect(page.getByTestId('model-view').locator('canvas')).toBeVisible();
  const heading = page.getByTestId('element-sheet').getByRole('heading').first();
  // Until the picture is there a click meets nothing.
  await expect(async () => {
    await page.mouse.click(600, 330);
    await expect(heading).toHaveText(/Roof south/, { timeout: 1000 });
  }).toPass();
  await page.getByRole('combobox', { name: 'Cut from' }).click();
  await page.getByRole('option', { name: 'South' }).click();
  const slider = page.getByRole('slider', { name: 'Cut at' });
  await slider.focus();
  // Up to beyond the ridge: the south slope is gone, and what stands behind it is met instead.
  for (let i = 0; i < 17; i++) await slider.press('PageUp');
  // What is selected has its sheet beside the model, which stands further to the left by it.
  await page.mouse.click(446, 330);
  await expect(heading).toHaveText(/artition|wall|Door/);
});
