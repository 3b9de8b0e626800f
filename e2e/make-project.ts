import { expect, type Page } from '@playwright/test';

/** Makes a project by the form of the first page; it begins with the demo's rules and book unless another start is named. */
export async function makeProject(page: Page, name: string, start = 'Those of Heron Wharf'): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Name').fill(name);
  await page.getByRole('combobox', { name: 'Rules and book' }).click();
  await page.getByRole('option', { name: start }).click();
  await page.getByRole('button', { name: 'Make project' }).click();
  await expect(page).toHaveURL(/\/sources$/);
}
