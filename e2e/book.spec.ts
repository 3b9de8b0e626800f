import { expect, test } from '@playwright/test';

test('the rates of a supplier’s items are moved by a per cent, the effect is seen first', async ({ page }) => {
  await page.goto('/projects/heron-wharf/book');
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  await expect(grid.getByRole('row', { name: /M-LOCK/ })).toContainText('128.00');
  await page.getByRole('button', { name: 'Move rates' }).click();
  const dialog = page.getByRole('dialog', { name: 'Move rates' });
  await dialog.getByLabel('By per cent').fill('2,5');
  // 128.00 + 2.5 % = 131.20: 3.20 dearer for each of 24 lockers.
  await expect(dialog.getByRole('row', { name: /M-LOCK/ })).toContainText('131.20');
  await expect(dialog.getByRole('status', { name: 'Effect' })).toContainText('491,419.94 → 491,496.74 (+76.80)');
  await expect(page.getByTestId('tape-total')).toHaveText('491,419.94');
  await dialog.getByRole('button', { name: 'Keep the new rates' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText('491,496.74');
  await expect(page.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first()).toContainText(
    'Rates of one item +2.5 %',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText('491,419.94');
});
