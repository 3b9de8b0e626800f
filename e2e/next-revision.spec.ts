import { expect, test } from '@playwright/test';

test('the next revision from the design desk moves the plan in two pages, and the move is explained to the cent', async ({
  page,
  context,
}) => {
  await page.goto('/');
  await page.getByLabel('Name').fill('Follows the design');
  await page.getByRole('button', { name: 'Make project' }).click();
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R1' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText('491,419.94', { timeout: 60_000 });

  const other = await context.newPage();
  await other.goto(page.url().replace('/design-desk', '/plan'));
  await expect(other.getByTestId('plan-total')).toHaveText('491,419.94');

  await page.getByRole('button', { name: 'R2' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  for (const p of [page, other])
    await expect(p.getByTestId('tape-total')).toHaveText('557,872.40', { timeout: 60_000 });
  await expect(other.getByTestId('plan-total')).toHaveText('557,872.40');

  const entry = other.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first();
  await expect(entry).toContainText('+66,452.46');
  await entry.getByRole('link').click();
  const split = other.getByTestId('move-split');
  // 55,983.00 + 3,616.89 + 6,852.57 = 66,452.46.
  await expect(split).toContainText('+55,983.00');
  await expect(split).toContainText('+3,616.89');
  await expect(split).toContainText('+6,852.57');
  await expect(other.getByTestId('changed-counts')).toHaveText('55 came, 3 went, 24 changed');
});
