import { expect, test } from './own-project.ts';

test('a layer of a kind is decided about on its own, and its sheet says by what', async ({ page, own }) => {
  await page.goto(`${own}/mapping`);
  const kinds = page.getByRole('grid', { name: 'Kinds' });
  const decision = page.getByRole('region', { name: 'Decision' });
  await kinds.getByRole('row').nth(1).click();
  await page.keyboard.press('Control+End');
  const row = kinds.getByRole('row', { name: /Block wall 200/ });
  await row.click();
  await expect(decision.getByRole('heading')).toHaveText('Wall, Block wall 200');
  await decision.getByRole('combobox', { name: 'About' }).click();
  // What the five walls have of it: their net side area.
  await expect(page.getByRole('option', { name: /Layer, Concrete block/ })).toContainText('102.75 m²');
  await page.getByRole('option', { name: /Layer, Concrete block/ }).click();
  await expect(decision.getByTestId('kind-catches')).toHaveText('all 5');
  await decision.getByRole('combobox', { name: 'Priced with' }).fill('M-ACB');
  await page.keyboard.press('Enter');
  await expect(decision.getByRole('button', { name: /Layer, area 102.75 m²/ })).toBeVisible();
  const section = decision.getByRole('combobox', { name: 'Work section' });
  await section.fill('Floor finishes');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  // 102.75 m2 and 8 % waste at 7.35.
  await expect(decision.getByRole('status', { name: 'Effect' })).toHaveText('+815.63 EUR');
  const effect = await decision.getByRole('status', { name: 'Effect' }).textContent();
  const before = await page.getByTestId('tape-total').textContent();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByTestId('tape-total')).not.toHaveText(before!);
  const figure = (text: string) => Math.round(100 * Number(text.replace(/[^\d.]/g, '')));
  const after = await page.getByTestId('tape-total').textContent();
  expect(figure(after!) - figure(before!)).toBe(figure(effect!));

  await page.goto(`${own}/model`);
  await page.getByPlaceholder('Find in the tree').fill('Block wall G4');
  await page.getByText('Block wall G4').first().click();
  const sheet = page.getByTestId('element-sheet');
  await expect(sheet.getByText('layer Concrete block:')).toBeVisible();
  await expect(sheet.getByRole('link', { name: 'Wall, Block wall 200: Layer, Concrete block' })).toBeVisible();
  // In its own section the wall itself is decided by a rule, and another caught it too.
  await sheet.getByRole('button', { name: 'Another catches it too' }).first().click();
  await expect(sheet.getByText(/comes before it/)).toBeVisible();
});

test('sections that a class is expected in are missed in the matrix and among the findings', async ({ page, own }) => {
  await page.goto(`${own}/mapping?view=matrix`);
  const matrix = page.getByRole('grid', { name: 'Kinds by section' });
  await matrix.getByRole('row', { name: /Rooflight/ }).click();
  const expected = page.getByRole('combobox', { name: 'Expected in' });
  await expected.fill('Scaffold');
  await page.getByRole('option', { name: 'Scaffold' }).click();
  await expect(matrix.getByRole('row', { name: /Rooflight/ })).toContainText('missing');
  await page.goto(`${own}/findings`);
  // 31 windows, of which nothing is in the scaffold.
  await expect(page.getByText('31 elements of the class Window have nothing in Scaffold')).toBeVisible();
});

test('codes of the designers that the book knows are mapped at once where something is open', async ({ page, own }) => {
  await page.goto(`${own}/mapping?view=codes`);
  const codes = page.getByRole('grid', { name: 'Codes' });
  await expect(codes.getByRole('row', { name: /E2010/ })).toContainText('M-LOCK');
  await expect(page.getByText('2 codes that the book knows have open elements.')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Codes for the designers (CSV)' }).click();
  expect((await download).suggestedFilename()).toMatch(/codes\.csv$/);
  await page.getByRole('button', { name: 'Map them all' }).click();
  await expect(page.getByText('What carries a code that the book knows is priced.')).toBeVisible();
  await expect(page.getByText('2 codes of the designers mapped')).toBeVisible();
});

test('a template is taken after what fits was shown, and a rule is dragged to another place', async ({ page, own }) => {
  await page.goto(`${own}/mapping?view=rules`);
  await page.getByRole('button', { name: 'Take a template' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Rules and book of' }).click();
  await page.getByRole('option', { name: 'The rough starter' }).click();
  await expect(dialog.getByTestId('template-fit')).toContainText('91 rules');
  await dialog.getByRole('button', { name: 'Take it' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText('Template applied: Starter, rough')).toBeVisible();
  const names = () => page.getByRole('table', { name: 'Rules' }).getByRole('row').evaluateAll((rows) => rows.slice(1, 4).map((r) => r.getAttribute('aria-label'))); // biome-ignore format: one step
  expect(await names()).toEqual(['Footings', 'Ground slab', 'Concrete column']);
  const handle = await page.getByRole('button', { name: 'Move Footings' }).boundingBox();
  await page.mouse.move(handle!.x + 8, handle!.y + 8);
  await page.mouse.down();
  await page.mouse.move(handle!.x + 8, handle!.y + 60, { steps: 8 });
  await page.mouse.up();
  await expect.poll(names).toEqual(['Ground slab', 'Footings', 'Concrete column']);
});
