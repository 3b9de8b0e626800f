import { expect, test } from '@playwright/test';
import { writeBoathouse } from '../demo/src/build-boathouse.ts';
import { REVISIONS } from '../demo/src/parameters.ts';
import { findRow } from './find-row.ts';

const model = { name: 'R1.ifc', mimeType: 'application/x-step', buffer: Buffer.from(writeBoathouse(REVISIONS.R1)) };
/** Codes that the designers gave, and how many elements carry each. */
const CODED = { B1020: 102, B1010: 100, A1010: 37, B2010: 34, E2010: 32, B2020: 29, C1010: 18, B3010: 13 } as const;
const coded = Object.values(CODED).reduce((sum, n) => sum + n, 0);
/** Each piece at 10.00: what so many cost, as the tape writes it. */
const tens = (pieces: number) => (pieces * 10).toLocaleString('en', { minimumFractionDigits: 2 });

test('the demo building is mapped from nothing: by code, by kind, by a sample, and one element by hand', async ({
  page,
  request,
}) => {
  const made = await request.post('/api/projects', { data: { name: 'From nothing', currency: 'EUR' } });
  const { id } = (await made.json()) as { id: string };
  const items = [...Object.keys(CODED), 'PIECE'].map((code) => ({
    kind: 'item',
    id: code,
    body: { code, description: `Piece ${code}`, kind: 'material', unit: 'each', rate: '10.00' },
  }));
  const book = await request.post(`/api/projects/${id}/changes`, {
    data: { base: 1, cause: 'Book', diff: { added: items, updated: [], removed: [] } },
  });
  expect(book.status()).toBe(200);
  await page.goto(`/projects/${id}/sources`);
  await page.getByTestId('file-input').setInputFiles(model);
  await expect(page.getByText(/IFC4, mm, 441 elements/)).toBeVisible({ timeout: 90_000 });
  const total = page.getByTestId('tape-total');

  // By code: all that the book knows at once.
  await page.goto(`/projects/${id}/mapping?view=codes`);
  await page.getByRole('button', { name: 'Map them all' }).click();
  await expect(page.getByText('8 codes of the designers mapped')).toBeVisible();
  await expect(total).toHaveText(tens(coded));

  // By kind: 14 doors and 6 bays of the ground slab.
  await page.getByRole('button', { name: 'By kind' }).click();
  const kinds = page.getByRole('grid', { name: 'Kinds' });
  const decision = page.getByRole('region', { name: 'Decision' });
  let priced: number = coded;
  const choose = async (kind: RegExp) => {
    await kinds.hover();
    await page.mouse.wheel(0, -100_000);
    await (await findRow(page, kinds, kind)).click();
  };
  for (const [kind, pieces] of [
    [/Door 900 x 2100/, 14],
    [/Ground slab bay/, 6],
  ] as const) {
    await choose(kind);
    await expect(decision.getByRole('heading')).toContainText(kind);
    await decision.getByRole('combobox', { name: 'Priced with' }).fill('PIECE');
    await page.keyboard.press('Enter');
    await expect(decision.getByRole('status', { name: 'Effect' })).toHaveText(`+${tens(pieces)} EUR`);
    await page.keyboard.press('Control+Enter');
    priced += pieces;
    await expect(total).toHaveText(tens(priced));
  }

  // By a sample: one room, and with it all rooms.
  await choose(/Space, Kitchen/);
  await page.getByRole('button', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'New rule' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Rooms');
  await dialog.getByRole('button', { name: 'Like the selected element' }).click();
  await expect(dialog.getByTestId('rule-catches')).toHaveText('Catches 17 elements.');
  await dialog.getByLabel('Price with one item').click();
  await dialog.getByRole('combobox', { name: 'Cost item' }).fill('PIECE');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await dialog.getByLabel('Driver').fill('Count');
  await page.keyboard.press('Escape');
  await dialog.getByRole('button', { name: 'Save the rule' }).click();
  await expect(dialog).toHaveCount(0);
  priced += 17;
  await expect(total).toHaveText(tens(priced));
  expect(priced / 441).toBeGreaterThan(0.9);

  // By hand: one pier at 500.00 a piece.
  await page.goto(`/projects/${id}/model`);
  await page.getByPlaceholder('Find in the tree').fill('Mooring pier');
  await page.getByText('Mooring pier').last().click();
  const price = page.getByRole('group', { name: 'Price this element' });
  await price.getByLabel('Rate').fill('500');
  await price.getByRole('button').last().click();
  await expect(total).toHaveText((priced * 10 + 500).toLocaleString('en', { minimumFractionDigits: 2 }));
  // One undo takes each step back.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(total).toHaveText(tens(priced));
});
