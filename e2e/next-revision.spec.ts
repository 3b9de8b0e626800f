import { expect, test } from '@playwright/test';
import { building } from './demo-figures.ts';
import { makeProject } from './make-project.ts';

test('the next revision from the design desk moves the plan in two pages, and the move is explained to the cent', async ({
  page,
  context,
}) => {
  await makeProject(page, 'Follows the design');
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R1' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(building(), { timeout: 60_000 });

  const other = await context.newPage();
  await other.goto(page.url().replace('/design-desk', '/plan'));
  await expect(other.getByTestId('plan-total')).toHaveText(building());

  await page.getByRole('button', { name: 'R2' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  for (const p of [page, other])
    await expect(p.getByTestId('tape-total')).toHaveText(building(0, 'R2'), { timeout: 60_000 });
  await expect(other.getByTestId('plan-total')).toHaveText(building(0, 'R2'));

  const entry = other.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first();
  await expect(entry).toContainText('+73,592.05');
  await entry.getByRole('link').click();
  const split = other.getByTestId('move-split');
  // 59,539.33 + 6,206.33 + 7,892.58 - 211.50 + 165.31 = 73,592.05.
  await expect(split).toContainText('+59,539.33');
  await expect(split).toContainText('+6,206.33');
  await expect(split).toContainText('+7,892.58');
  await expect(other.getByTestId('changed-counts')).toHaveText('55 came, 3 went, 24 changed');

  await other.getByRole('combobox', { name: 'Grouped by' }).click();
  await other.getByRole('option', { name: 'What happened' }).click();
  const list = other.getByRole('treegrid', { name: 'Changed elements' });
  // A closed group brings the next one into view.
  for (let group = 0; group < 3; group++) await list.getByRole('button', { name: 'Close group' }).first().click();
  const moves = (await list.getByRole('row').allInnerTexts()).flatMap(
    (text) => /([+−][\d,]+\.\d\d)$/.exec(text.trim())?.[1] ?? [],
  );
  const cents = moves.map((m) => Math.round(Number(m.replace('−', '-').replaceAll(',', '')) * 100));
  // Came, went, changed, and all of them.
  expect(cents).toHaveLength(4);
  expect(cents[0]! + cents[1]! + cents[2]!).toBe(cents[3]);
});
