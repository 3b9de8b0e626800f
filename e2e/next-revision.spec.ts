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
  // 59,229.83 + 6,349.52 + 7,847.39 + 165.31 = 73,592.05: three partitions that were drawn anew are no others.
  await expect(other.getByTestId('move')).toContainText('+73,592.05');
  await expect(other.getByRole('img', { name: /^From 560,149\.12 to 633,741\.17/ })).toHaveAccessibleName(
    /: Extent \+59,229\.83, Quantity \+6,349\.52, Mapping \+7,847\.39, Packs \+165\.31$/,
  );
  const groups = other.getByRole('grid', { name: 'Moves by group' });
  await expect(groups.getByRole('row', { name: /Windows and doors/ })).toContainText('+7,228.22');
  await other.getByRole('button', { name: 'Elements', exact: true }).click();
  await expect(other.getByTestId('changed-counts')).toContainText('Came 52');
  await expect(other.getByTestId('changed-counts')).toContainText('Known again 3');

  // An element is opened to its lines on both sides.
  const list = other.getByRole('grid', { name: 'Changed elements' });
  await list.getByText('Space Entrance hall').click();
  const sides = other.getByRole('table', { name: 'The element on both sides' });
  await expect(sides.getByRole('row', { name: /Vinyl sheet/ })).toContainText('132.19 m²');

  // The other way round every figure is its opposite.
  await other.getByRole('button', { name: 'The other way round' }).click();
  await expect(other.getByTestId('move')).toContainText('−73,592.05');
  await expect(other.getByRole('img', { name: /^From 633,741\.17/ })).toHaveAccessibleName(/Extent −59,229\.83/);
});

test('a plan is frozen as the contract, its rate changes, and the move since is told; taken away and undone it is there again', async ({
  page,
}) => {
  await makeProject(page, 'Frozen');
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R1' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(building(), { timeout: 60_000 });
  await page.getByRole('link', { name: 'Changes', exact: true }).click();
  await page.getByRole('button', { name: 'Frozen plans' }).click();
  await page.getByLabel('Freeze the plan of now as').fill('Cost plan 1');
  await page.getByRole('checkbox', { name: 'Contract' }).check();
  await page.getByRole('button', { name: 'Freeze', exact: true }).click();
  const frozen = page.getByRole('list', { name: 'Frozen plans' });
  await expect(frozen.getByRole('listitem')).toContainText('Cost plan 1 · contract');
  await expect(frozen.getByRole('listitem')).toContainText('560,149.12 EUR');
  await page.getByLabel('Freeze the plan of now as').press('Escape');
  await expect(page.getByLabel('Freeze the plan of now as')).toHaveCount(0);

  await page.getByRole('link', { name: 'Sources', exact: true }).click();
  await page.getByRole('link', { name: 'Design desk' }).click();
  await page.getByRole('button', { name: 'R2' }).click();
  await page.getByRole('button', { name: 'Issue the revision' }).click();
  await expect(page.getByTestId('tape-total')).toHaveText(building(0, 'R2'), { timeout: 60_000 });
  await page.getByRole('link', { name: 'Changes', exact: true }).click();
  // What one wants to know first: what moved since the contract.
  await expect(page.getByRole('combobox', { name: 'From' })).toContainText('Cost plan 1 (contract)');
  await expect(page.getByTestId('move')).toContainText('+73,592.05');

  await page.getByRole('button', { name: 'Frozen plans' }).click();
  await page.getByRole('button', { name: 'Take away' }).click();
  await expect(frozen).toHaveCount(0);
  // What was pressed is gone: the sheet is closed from its field.
  await page.getByLabel('Freeze the plan of now as').press('Escape');
  await expect(page.getByLabel('Freeze the plan of now as')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Frozen plans' }).click();
  await expect(frozen.getByRole('listitem')).toContainText('Cost plan 1 · contract');
});
