import { expect, type Locator, type Page } from '@playwright/test';

/** Turns the wheel over a long table until a row stands in it, as a user does. */
export async function findRow(page: Page, grid: Locator, name: RegExp): Promise<Locator> {
  const row = grid.getByRole('row', { name });
  await expect(grid.getByRole('row').nth(1)).toBeVisible();
  await grid.hover();
  for (let turn = 0; turn < 60 && (await row.count()) === 0; turn++) {
    await page.mouse.wheel(0, 300);
    await page.waitForTimeout(60);
  }
  return row;
}
