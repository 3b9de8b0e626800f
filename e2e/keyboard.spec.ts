import { demo } from './demo-figures.ts';
import { expect, test } from './own-project.ts';

test('a rate is changed and the projects are reached again without touching the mouse', async ({ page, own }) => {
  await page.goto('/');
  // To the first project of the list by Tab, and into it.
  const link = page.locator(`a[href^="${own}"]`).first();
  await expect(link).toBeVisible();
  for (let n = 0; n < 60 && !(await link.evaluate((a) => a === document.activeElement)); n++)
    await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  // The fifth place in the order of the work is the book.
  await page.keyboard.press('Alt+5');
  await expect(page).toHaveURL(/\/book/);
  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('locker, steel');
  await expect(page.getByRole('option', { name: /M-LOCK/ })).toBeVisible();
  await page.keyboard.press('Enter');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  const row = grid.getByRole('row', { name: /M-LOCK/ });
  await expect(row).toHaveAttribute('aria-selected', 'true');
  for (let n = 0; n < 60 && !(await grid.evaluate((g) => g === document.activeElement)); n++)
    await page.keyboard.press('Tab');
  // The cell one stands on is in its row; along to its rate.
  const headings = await grid.getByRole('columnheader').allTextContents();
  const rate = headings.findIndex((h) => h.startsWith('Rate'));
  for (let n = 0; n < rate; n++) await page.keyboard.press('ArrowRight');
  const active = await grid.getAttribute('aria-activedescendant');
  await expect(page.locator(`[id="${active}"]`)).toHaveText('128.00');
  await page.keyboard.type('130');
  await page.keyboard.press('Enter');
  // 2.00 more for each of 24 lockers.
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  await page.keyboard.press('ControlOrMeta+z');
  await expect(page.getByTestId('tape-total')).toHaveText(demo());
  const home = page.getByRole('link', { name: 'All projects' });
  for (let n = 0; n < 80 && !(await home.evaluate((a) => a === document.activeElement)); n++)
    await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Make project' })).toBeVisible();
});
