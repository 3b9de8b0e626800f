import { expect, test } from '@playwright/test';
import { writeLodgeModel } from '../demo/src/lodge-model.ts';
import { makeProject } from './make-project.ts';

const lodge = { name: 'lodge.ifc', mimeType: 'application/x-step', buffer: Buffer.from(writeLodgeModel()) };

test('a building of another office is priced by the rough starter, and a kind is decided anew by keys', async ({
  page,
}) => {
  await makeProject(page, 'Lodge', 'Rough ones for any building');
  await page.getByTestId('file-input').setInputFiles(lodge);
  await expect(page.getByText(/IFC4, mm, 59 elements/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  // 184.744 m2 of outer walls at 195.00.
  await expect(page.getByRole('row', { name: /R-WALL-MO/ })).toContainText('36,025.08');
  await expect(page.getByTestId('tape-open')).toHaveCount(0);

  await page.getByRole('link', { name: 'Mapping', exact: true }).click();
  const kinds = page.getByRole('grid', { name: 'Kinds' });
  await kinds.getByRole('row', { name: /Covering/ }).click();
  const decision = page.getByRole('region', { name: 'Decision' });
  await expect(decision.getByRole('heading')).toContainText('Covering');
  await expect(decision.getByRole('list', { name: 'Decided by' })).toContainText('Finishes, by Ceiling');
  // 10.5 m2 of ceiling cost 714.00; as a floor covering at 82.00 they would cost 861.00.
  await decision.getByRole('combobox', { name: 'Priced with' }).fill('floor covering');
  await page.keyboard.press('Enter');
  await expect(decision.getByRole('status', { name: 'Effect' })).toHaveText('+147.00 EUR');
  const before = await page.getByTestId('tape-total').textContent();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByTestId('tape-total')).not.toHaveText(before!);
  await page.goto(page.url().replace('/mapping', '/plan'));
  await expect(page.getByRole('row', { name: /R-COV-FLOOR/ })).toContainText('861.00');
});

test('a building without a rule is mapped kind by kind, what misses most first, to a total worked out by hand', async ({
  page,
}) => {
  await makeProject(page, 'Lodge by hand', 'None yet');
  await page.getByRole('link', { name: 'Book', exact: true }).click();
  for (const [code, unit, rate] of [
    ['WALL', 'm2', '100'],
    ['PIECE', 'each', '50'],
  ]) {
    await page.getByRole('button', { name: 'New item' }).first().click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Code').fill(code!);
    await dialog.getByLabel('Description').fill(`${code} of the lodge`);
    await dialog.getByLabel('Unit').fill(unit!);
    await dialog.getByLabel('Rate EUR').fill(rate!);
    await dialog.getByRole('button', { name: 'Add the item' }).click();
    await expect(dialog).toHaveCount(0);
  }
  await page.getByRole('link', { name: 'Sources', exact: true }).click();
  await page.getByTestId('file-input').setInputFiles(lodge);
  await expect(page.getByText(/IFC4, mm, 59 elements/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Mapping', exact: true }).click();
  const decision = page.getByRole('region', { name: 'Decision' });
  const kinds = page.getByRole('grid', { name: 'Kinds' });
  const decide = async (kind: RegExp, code: string) => {
    await kinds.getByRole('row', { name: kind }).click();
    await expect(decision.getByRole('heading')).toContainText(kind);
    await decision.getByRole('combobox', { name: 'Priced with' }).fill(code);
    await page.keyboard.press('Enter');
    await expect(decision.getByRole('status', { name: 'Effect' })).toContainText('EUR');
    await page.keyboard.press('Control+Enter');
  };
  const total = page.getByTestId('tape-total');
  await decide(/Window/, 'PIECE');
  // 16 windows at 50.00.
  await expect(total).toHaveText('800.00');
  await decide(/Trockenbau/, 'WALL');
  // 4 partitions of 7.27 m x 2.8 m with a door of 2.1 m2 each, 73.024 m2 at 100.00.
  await expect(total).toHaveText('8,102.40');
  // A door is left out with a reason, and undo brings it back.
  await kinds.getByRole('row', { name: /Haust/ }).click();
  await expect(decision.getByRole('heading')).toContainText('Haust');
  await decision.getByRole('button', { name: 'Leave it out' }).click();
  await decision.getByLabel('Why it is left out').fill('Bought by the club');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Left out 2')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Left out 2')).toHaveCount(0);
  await expect(total).toHaveText('8,102.40');
});
