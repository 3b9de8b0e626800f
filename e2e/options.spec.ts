import { expect, test } from '@playwright/test';
import { building } from './demo-figures.ts';
import { findRow } from './find-row.ts';
import { makeProject } from './make-project.ts';

test('an option is made, a price changed in it, compared with the plan by group, brought up to it and merged in one step that is taken back', async ({
  page,
}) => {
  await makeProject(page, 'Two ways');
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R1' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(building(), { timeout: 60_000 });
  const plan = page.url().replace('/design-desk', '');

  await page.getByRole('link', { name: 'Changes', exact: true }).click();
  await page.getByRole('button', { name: 'Options', exact: true }).click();
  await page.getByLabel('A new option').fill('Cheaper glulam');
  await page.getByRole('button', { name: 'Make it and work in it' }).click();
  const strip = page.getByRole('status', { name: 'Option' });
  await expect(strip).toContainText('You work in the option Cheaper glulam: nothing differs from the plan yet');
  await expect(page.getByTestId('tape-total')).toHaveText(building());

  // A rate of the book, in the option only.
  await page.getByRole('link', { name: 'Book', exact: true }).click();
  const glulam = await findRow(page, page.getByRole('grid', { name: 'Items' }), /M-GLU/);
  await glulam.getByRole('gridcell').filter({ hasText: '890.00' }).dblclick();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('790');
  await page.keyboard.press('Enter');
  await expect(strip).toContainText('one thing differs from the plan');
  await expect(page.getByTestId('tape-total')).not.toHaveText(building());
  const cheaper = await page.getByTestId('tape-total').innerText();

  await strip.getByRole('link', { name: 'What it moves' }).click();
  await expect(page.getByRole('combobox', { name: 'From' })).toContainText('The plan, without the option');
  await expect(page.getByRole('img', { name: /^From 560,149\.12/ })).toHaveAccessibleName(/: Price −[\d,.]+$/);

  // One key leads back: the plan is as it was.
  await page.keyboard.press('Escape');
  await page.locator('body').press('o');
  await expect(strip).toHaveCount(0);
  await expect(page.getByTestId('tape-total')).toHaveText(building());
  await page.goto(`${plan}/changes`);
  await page.getByRole('button', { name: 'Options side by side' }).click();
  const beside = page.getByRole('grid', { name: 'Options side by side' });
  await expect(beside.getByText(cheaper).first()).toBeVisible();

  await page.getByRole('button', { name: 'Options', exact: true }).click();
  const row = page.getByRole('list', { name: 'Options' }).getByRole('listitem').filter({ hasText: 'Cheaper glulam' });
  await row.getByRole('button', { name: 'Merge into the plan' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(cheaper);
  await expect(row).toHaveCount(0);
  // What was pressed is gone: the sheet is closed from its field.
  await page.getByLabel('A new option').press('Escape');
  await expect(page.getByLabel('A new option')).toHaveCount(0);
  await page.locator('body').press('Control+z');
  await expect(page.getByTestId('tape-total')).toHaveText(building());
});

test('a wall that was drawn anew is said to be another, and is known again when that is taken back', async ({
  page,
}) => {
  await makeProject(page, 'Drawn anew');
  await page.getByRole('link', { name: 'Design desk' }).click();
  for (const name of ['R1', 'R2'] as const) {
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('button', { name: 'Issue the revision' }).click();
    await expect(page.getByTestId('tape-total')).toHaveText(building(0, name), { timeout: 60_000 });
  }
  await page.getByRole('link', { name: 'Changes', exact: true }).click();
  await page.getByRole('button', { name: 'Known again', exact: true }).click();
  const pairs = page.getByRole('grid', { name: 'Known again' });
  const wall = pairs.getByRole('row', { name: /Partition G6/ });
  await expect(wall).toContainText('Taken: same place or name');
  await wall.getByRole('button', { name: 'Another' }).click();
  await expect(wall).toContainText('Another, as was said');
  await expect(page.getByTestId('tape-total')).toHaveText(building(0, 'R2'));

  await page.getByRole('combobox', { name: 'From' }).click();
  await page.getByRole('option', { name: /heron-wharf 1$/ }).click();
  await page.getByRole('button', { name: 'Elements', exact: true }).click();
  await expect(page.getByTestId('changed-counts')).toContainText('Went 1');
  // By hand the two are one again, and parted again by taking that back.
  await page.getByRole('button', { name: 'Known again', exact: true }).click();
  await page.getByLabel('One that went').click();
  await page.getByRole('option', { name: /Partition G6/ }).click();
  await page.getByLabel('is one that came').fill('Partition G6');
  await page.getByRole('option', { name: /Partition G6/ }).click();
  await page.getByRole('button', { name: 'They are one' }).click();
  await page.getByRole('button', { name: 'Elements', exact: true }).click();
  await expect(page.getByTestId('changed-counts')).toContainText('Known again 3');
  await page.locator('body').press('Control+z');
  await expect(page.getByTestId('changed-counts')).toContainText('Went 1');
  await page.locator('body').press('Control+z');
  await expect(page.getByTestId('changed-counts')).toContainText('Known again 3');
});
