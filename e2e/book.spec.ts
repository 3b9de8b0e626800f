import { demo } from './demo-figures.ts';
import { findRow } from './find-row.ts';
import { expect, test } from './own-project.ts';

test('the rates of a supplier’s items are moved by a per cent, the effect is seen first', async ({ page, own }) => {
  await page.goto(`${own}/book`);
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  await expect(grid.getByRole('row', { name: /M-LOCK/ })).toContainText('128.00');
  await page.getByRole('button', { name: 'Move rates' }).click();
  const dialog = page.getByRole('dialog', { name: 'Move rates' });
  await dialog.getByLabel('By per cent').fill('2,5');
  // 128.00 + 2.5 % = 131.20: 3.20 dearer for each of 24 lockers.
  await expect(dialog.getByRole('row', { name: /M-LOCK/ })).toContainText('131.20');
  await expect(dialog.getByRole('status', { name: 'Effect' })).toContainText(`${demo()} → ${demo(76.8)} (+76.80)`);
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await dialog.getByRole('button', { name: 'Keep the new rates' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(76.8));
  await expect(page.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first()).toContainText(
    'Rates of one item +2.5 %',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('a named value moves everything that uses it; the effect is seen first', async ({ page, own }) => {
  await page.goto(`${own}/book`);
  await page.getByRole('tab', { name: /Named values/ }).click();
  await page
    .getByRole('list', { name: 'Named values' })
    .getByRole('button', { name: /Crane hour/ })
    .click();
  const sheet = page.getByRole('region', { name: 'Named value' });
  const state = sheet.getByRole('status', { name: 'State of the value' });
  await expect(state).toContainText('P-CRANE');
  const value = sheet.getByRole('combobox', { name: 'Value' });
  await value.fill('CraneMinute * 60');
  await expect(sheet).toContainText('There is no quantity, parameter or named value "CraneMinute"');
  await expect(sheet.getByRole('button', { name: 'Keep the value' })).toBeDisabled();
  await value.fill('150');
  // 8.00 more for each of the 33.93 crane hours of the plan.
  await expect(state).toContainText(`${demo()} → ${demo(271.47)} (+271.47)`);
  await sheet.getByRole('button', { name: 'Keep the value' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(271.47));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('a scale is made without gaps and gives a rate', async ({ page, own }) => {
  await page.goto(`${own}/book?scale=`);
  await page.getByRole('button', { name: 'New scale' }).click();
  const sheet = page.getByRole('region', { name: 'Scale', exact: true });
  await sheet.getByLabel('Name').fill('Locker by height');
  await sheet.getByRole('combobox', { name: 'Gives' }).fill('EUR/each');
  await sheet.getByLabel('Goes by').fill('Height');
  await sheet.getByLabel('Height to, row 1').fill('1');
  await sheet.getByLabel('Figure, row 1').fill('90');
  await sheet.getByRole('button', { name: 'Add a row' }).click();
  await expect(sheet.getByLabel('Height from, row 2')).toHaveValue('1');
  await sheet.getByLabel('Height from, row 2').fill('1,5');
  await sheet.getByLabel('Figure, row 2').fill('140');
  const state = sheet.getByRole('status', { name: 'State of the scale' });
  await expect(state).toContainText('nothing is said from 1 m to 1.5 m');
  await sheet.getByLabel('Height from, row 2').fill('1');
  await expect(sheet.getByRole('img', { name: /Locker by height/ })).toBeVisible();
  await sheet.getByRole('button', { name: 'Keep the scale' }).click();
  await expect(page.getByRole('list', { name: 'Scales' })).toContainText('Locker by height');

  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  await row.getByText('128.00').dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('scale("Locker by height", 1.8 m)');
  await page.keyboard.press('Enter');
  // 140.00 instead of 128.00 for each of 24 lockers.
  await expect(page.getByTestId('tape-total')).toHaveText(demo(288));
  await expect(row).toContainText('140.00');
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('an assembly is written as people say it, tried on an element, and its lines are moved', async ({ page, own }) => {
  await page.goto(`${own}/book?assembly=A-BLOCK`);
  const recipe = page.getByRole('region', { name: 'Assembly' });
  const tried = page.getByRole('grid', { name: 'Lines tried' });
  await page.getByRole('region', { name: 'Try it' }).getByRole('combobox', { name: 'With a driver of' }).fill('8 m2');
  // 8 m2 x 0.75 h
  await expect(tried.getByRole('row', { name: /L-MAS/ })).toContainText('6.0');
  const mason = recipe.getByRole('group', { name: 'Line L-MAS' }).getByRole('combobox', { name: /How much/ });
  await mason.fill('2 m2 per bag');
  await expect(recipe).toContainText('speaks of m2 and bag; h and m2 are needed');
  await expect(recipe.getByRole('button', { name: 'Save the assembly' })).toBeDisabled();
  await mason.fill('1.6 m2 per hour');
  await expect(recipe).toContainText('= Driver / 1.6 m2/h');
  // 8 m2 / 1.6 = 5 h at 46.10
  await expect(tried.getByRole('row', { name: /L-MAS/ })).toContainText('5.0');
  await expect(tried.getByRole('row', { name: /L-MAS/ })).toContainText('230.50');
  await tried.getByRole('row', { name: /L-MAS/ }).click();
  await expect(page.getByRole('note', { name: 'How L-MAS is worked out' })).toContainText(
    'Driver / 1.6 m2/h = 8 m² / 1.6 m²/h = 5.0 h',
  );
  const handle = recipe.getByRole('button', { name: 'Move the line L-MAS' });
  await handle.focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/moved over droppable area 4/)).toBeAttached();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText(/moved over droppable area 3/)).toBeAttached();
  await page.keyboard.press('Space');
  await expect(tried.getByRole('row').nth(3)).toContainText('L-MAS');
  const effect = recipe.getByRole('status', { name: 'State of the assembly' });
  await expect(effect).toContainText(`${demo()} →`);
  const after = /→ ([\d,.]+)/.exec((await effect.textContent())!)![1]!;
  await recipe.getByRole('button', { name: 'Save the assembly' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(after);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('an item sold in packs is bought whole; what is left over is a line of the plan', async ({ page, own }) => {
  await page.goto(`${own}/book`);
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  const cell = grid
    .getByRole('row', { name: /M-LOCK/ })
    .getByRole('gridcell')
    .nth(6);
  await cell.dblclick();
  await page.keyboard.type('by the dozen');
  await page.keyboard.press('Enter');
  await expect(page.getByText('does not say how it is sold')).toBeVisible();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('packs of 9');
  await page.keyboard.press('Enter');
  // 24 lockers come in 3 packs of 9: 3 are left over, at 128.00.
  await expect(page.getByTestId('tape-total')).toHaveText(demo(384));
  await expect(grid.getByRole('textbox')).toHaveCount(0);
  await expect(page.getByText('not there any more')).toHaveCount(0);
  await page.goto(`${own}/plan?view=purchases`);
  const bought = await findRow(page, page.getByRole('treegrid', { name: 'Purchases' }), /M-LOCK/);
  await expect(bought).toContainText('3 packs');
  await expect(bought).toContainText('3,456.00');
  await page.getByRole('button', { name: 'Lines' }).click();
  const plan = page.getByRole('treegrid', { name: 'Plan' });
  const surplus = await findRow(page, plan, /Locker, steel, left over of whole packs/);
  await expect(surplus).toContainText('384.00');
  await page.goto(`${own}/changes`);
  await expect(page.getByRole('img', { name: /^From .*: Packs \+384\.00$/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('a price sheet is brought, compared, taken over in part, and saved the other way', async ({ page, own }) => {
  await page.goto(`${own}/book?sheet=`);
  const sheet =
    'Yard prices;;;\n;;;\nNumber;Text;Per;Our price\nM-LOCK;Locker, steel;pcs;130,00 €\nM-SAWN;Sawn timber;m³;482,00 €\nM-REB;Reinforcement;t;1.380,00 €\nT-900;Fence board;m;3,40 €\n;Sum;;615,40 €\n';
  await page
    .getByLabel('Price sheet file')
    .setInputFiles({ name: 'yard.csv', mimeType: 'text/csv', buffer: Buffer.from(sheet) });
  const brought = page.getByRole('region', { name: 'Price sheet' });
  await expect(brought.getByRole('table', { name: 'First rows of the sheet' })).toContainText('Our price');
  await brought.getByRole('button', { name: 'Compare with the book' }).click();
  const changed = brought.getByRole('grid', { name: 'Changed prices' });
  await expect(changed.getByRole('row', { name: /M-LOCK/ })).toContainText('+1.6');
  await changed.getByRole('checkbox', { name: 'Take M-SAWN over' }).click();
  // 2.00 more for each of 24 lockers.
  await expect(brought.getByRole('status', { name: 'Effect' })).toContainText(`${demo()} → ${demo(48)} (+48.00)`);
  await brought.getByRole('tab', { name: 'Not used 2' }).click();
  await expect(brought.getByRole('grid', { name: 'Rows not used' })).toContainText(
    'The sheet prices it per t, the book per kg.',
  );
  await brought.getByRole('tab', { name: 'New 1' }).click();
  await brought.getByRole('checkbox', { name: 'Take T-900 over' }).click();
  await brought.getByRole('button', { name: 'Take 2 over' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  await expect(page.getByRole('list', { name: 'Price sheets' })).toContainText('2 items have their price from it');
  await page.getByRole('tab', { name: /Cost items/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as XLSX' }).click();
  expect((await download).suggestedFilename()).toBe('Heron Wharf Boathouse book.xlsx');
  await page.goto(`${own}/plan`);
  const plan = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as XLSX' }).click();
  expect((await plan).suggestedFilename()).toBe('Heron Wharf Boathouse plan.xlsx');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('the grid is typed in like a spreadsheet: a block is pasted whole or not at all, a cell filled from above', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/book`);
  await page.getByRole('textbox', { name: 'Filter items' }).fill('gypsum board acoustic');
  await page.getByRole('textbox', { name: 'Filter items' }).fill('board 12.5');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  const [first, second] = [grid.getByRole('row', { name: /M-GYP/ }), grid.getByRole('row', { name: /M-ACB/ })];
  const rows = await grid.getByRole('row').allTextContents();
  const order = rows.findIndex((r) => r.includes('M-ACB')) < rows.findIndex((r) => r.includes('M-GYP'));
  const top = order ? second : first;
  const paste = (text: string) =>
    grid.evaluate((element, plain) => {
      const data = new DataTransfer();
      data.setData('text/plain', plain);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  await top.getByRole('gridcell').nth(8).click();
  await paste('Board yard\tList of May\nBoard yard\tList of May\n');
  await expect(first).toContainText('List of May');
  await expect(second).toContainText('Board yard');
  await top.getByRole('gridcell').nth(4).click();
  await paste('9.00\t5\n9.00\tmuch');
  await expect(page.getByRole('alert').filter({ hasText: 'waste: "much" is no percentage.' })).toBeVisible();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ControlOrMeta+d');
  await expect(page.getByTestId('tape-total')).not.toHaveText(demo());
  const about = page.getByRole('region', { name: /About M-/ });
  await expect(about.getByRole('list', { name: 'Past rates' }).getByRole('listitem')).toHaveCount(3);
  await expect(about.getByRole('img', { name: /Past rates/ })).toBeVisible();
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('factors and another currency take the rates of the book to this place', async ({ page, own }) => {
  await page.goto(`${own}/settings`);
  const part = page.getByRole('region', { name: 'Prices of this project' });
  await part.getByRole('button', { name: 'Add a currency' }).click();
  await part.getByLabel('Currency').fill('usd');
  await part.getByLabel('One is, in EUR').fill('0,90');
  await part.getByLabel('Of', { exact: true }).fill('2026-03-01');
  await part.getByRole('button', { name: 'Keep the rate' }).click();
  await expect(part).toContainText('0.9 EUR');
  await part.getByRole('button', { name: 'Add a factor' }).click();
  await part.getByLabel('Name of the factor').fill('River site');
  await part.getByLabel('Per cent').fill('10');
  await part.getByRole('combobox', { name: 'On' }).click();
  await page.getByRole('option', { name: 'fee' }).click();
  // Permit 3,850.00, surety 4,665.00, insurance 3,200.00.
  await expect(part.getByRole('status', { name: 'Effect' })).toContainText(`${demo()} → ${demo(1171.5)} (+1,171.50)`);
  await part.getByRole('combobox', { name: 'On' }).click();
  await page.getByRole('option', { name: 'all kinds of cost' }).click();
  await expect(part.getByRole('status', { name: 'Effect' })).toContainText(`${demo()} → 641,490.7`);
  await part.getByRole('button', { name: 'Keep the factor' }).click();
  await expect(page.getByTestId('tape-total')).toContainText('641,490.7');
  await page.goto(`${own}/changes`);
  await expect(page.getByRole('img', { name: /^From .*: Factors \+58,[\d.,]+/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());

  await page.goto(`${own}/book`);
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  await row.getByRole('gridcell').nth(4).click();
  await page.keyboard.type('150 USD');
  await page.keyboard.press('Enter');
  // 150 x 0.90 = 135.00: 7.00 more for each of 24 lockers.
  await expect(page.getByTestId('tape-total')).toHaveText(demo(168));
  await expect(row).toContainText('150.00 USD');
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('prices are shared as a book, changed for this project alone, and shared again as its next version', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/book?shared=`);
  await page.getByRole('button', { name: 'Share as a new book' }).click();
  const form = page.getByRole('region', { name: 'Share as a new book' });
  await form.getByLabel('Name of the book').fill('Wharf prices');
  await form.getByRole('button', { name: 'Share the book' }).click();
  const shared = page.getByRole('region', { name: 'Shared book' });
  await expect(shared).toContainText('Wharf prices, version 1');
  await expect(shared).toContainText('This project has nothing of its own beside the book.');
  await expect(page.getByTestId('tape-total')).toHaveText(demo());

  await page.getByRole('tab', { name: /Cost items/ }).click();
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const row = page.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ });
  await row.getByRole('gridcell').nth(4).click();
  await page.keyboard.type('130');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  await expect(row).toContainText('M-LOCK •');
  await page.getByRole('button', { name: 'Back to the book’s' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));

  await page.getByRole('tab', { name: /Wharf prices/ }).click();
  await shared.getByLabel('What is new').fill('Lockers dearer');
  await shared.getByRole('button', { name: 'Share as version 2' }).click();
  await expect(shared.getByRole('list', { name: 'Versions' })).toContainText('Lockers dearer');
  await expect(shared.getByRole('list', { name: 'Changes of the book' })).toContainText(
    'Item M-LOCK: rate 128.00 > 130',
  );
  await shared.getByRole('button', { name: 'Version 1', exact: true }).click();
  await expect(shared.getByRole('status', { name: 'Effect' })).toContainText(`${demo(48)} → ${demo()} (−48.00)`);
  await shared.getByRole('button', { name: 'Take version 1 over' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await expect(page.getByRole('tab', { name: 'Wharf prices 1, newer there' })).toBeVisible();
  // Back to prices of its own, as the other tests know them.
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('tab', { name: 'Shared books' })).toBeVisible();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
});

test('a rate typed on an element that nothing prices makes an item of this project in one step', async ({
  page,
  own,
}) => {
  await page.goto(`${own}/model`);
  await page.getByPlaceholder('Find in the tree').fill('Rooflight 2');
  await page.getByText('Rooflight 2').first().click();
  const form = page.getByTestId('element-sheet').getByRole('group', { name: 'Price this element' });
  await form.getByLabel('Rate EUR').fill('612,50');
  await expect(form.getByRole('button', { name: 'Price it, +612.50' })).toBeEnabled();
  await form.getByRole('combobox', { name: 'Work section' }).click();
  await page.getByRole('option', { name: 'Windows and doors' }).click();
  await form.getByRole('button', { name: 'Price it, +612.50' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo(612.5));
  await expect(page.getByTestId('tape-open')).toHaveText(/Not fully priced\s*15 of 443/);
  await expect(page.getByTestId('element-cost')).toHaveText('612.50');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  await expect(form).toBeVisible();
});
