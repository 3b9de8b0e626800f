import { expect, test } from '@playwright/test';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { building } from './demo-figures.ts';
import { findRow } from './find-row.ts';
import { makeProject } from './make-project.ts';

const file = (name: string, text: string) => ({ name, mimeType: 'application/x-step', buffer: Buffer.from(text) });

test('a model of one\u2019s own becomes a priced plan that a rate, a rule and undo move', async ({ page, context }) => {
  await makeProject(page, 'My boathouse');
  await page.getByTestId('file-input').setInputFiles(file('mine-R1.ifc', writeBoathouse(REVISIONS.R1)));
  await expect(page.getByText('mine-R1.ifc').first()).toBeVisible();
  await expect(page.getByTestId('tape-total')).toHaveText(building(), { timeout: 60_000 });
  await expect(page.getByText('441 elements')).toBeVisible();

  const other = await context.newPage();
  await other.goto(page.url().replace('/sources', '/plan'));
  await expect(other.getByTestId('plan-total')).toHaveText(building());

  // 24 lockers, 10.00 dearer each: 240.00.
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await expect(page.getByTestId('plan-total')).toHaveText(building());
  const rate = (await findRow(page, page.getByRole('treegrid', { name: 'Plan' }), /M-LOCK/)).getByText('128.00');
  await rate.dblclick();
  await page.getByRole('textbox', { name: 'Rate' }).fill('138');
  await page.keyboard.press('Enter');
  for (const p of [page, other]) {
    await expect(p.getByTestId('tape-total')).toHaveText(building(240));
    await expect(p.getByTestId('plan-total')).toHaveText(building(240));
    await expect(p.getByRole('list', { name: 'Last moves' }).getByRole('listitem').first()).toContainText('+240.00');
  }
  await page.getByRole('button', { name: 'Undo' }).click();
  for (const p of [page, other]) await expect(p.getByTestId('tape-total')).toHaveText(building());

  // 24 lockers and 10 % are 26.4: 27 whole ones, three more of 128.00.
  await page.getByRole('link', { name: 'Book', exact: true }).click();
  await page.getByLabel('Filter items').fill('locker');
  await page
    .getByRole('row', { name: /M-LOCK/ })
    .getByRole('gridcell')
    .nth(5)
    .dblclick();
  await page.getByRole('textbox', { name: 'Waste %' }).fill('10');
  await page.keyboard.press('Enter');
  await expect(other.getByTestId('tape-total')).toHaveText(building(384));
  // A waste that is no allowance is refused where it is typed, and nothing is lost.
  await page
    .getByRole('row', { name: /M-LOCK/ })
    .getByRole('gridcell')
    .nth(5)
    .dblclick();
  await page.getByRole('textbox', { name: 'Waste %' }).fill('-3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Waste %' })).toHaveAttribute('aria-invalid', 'true');
  await page.keyboard.press('Escape');

  // A rule turned off leaves its elements unpriced: 27 lockers are 3,456.00.
  await page.getByRole('link', { name: 'Mapping', exact: true }).click();
  await page.getByRole('button', { name: 'Rules', exact: true }).click();
  await page
    .getByRole('row', { name: /Lockers/ })
    .getByRole('switch')
    .click();
  await expect(other.getByTestId('tape-total')).toHaveText(building(-3_072));
  await expect(page.getByTestId('tape-open')).toHaveText(/40/);
});

test('a file that is no model is told apart, and the project stays', async ({ page }) => {
  await makeProject(page, 'Broken');
  await page.getByTestId('file-input').setInputFiles(file('notes.ifc', 'Not a model at all.'));
  await expect(page.getByText(/does not start with ISO-10303-21/)).toBeVisible();
  await page.getByRole('button', { name: 'Put away' }).click();
  await expect(page.getByText(/does not start with ISO-10303-21/)).toBeHidden();
  await page.getByTestId('file-input').setInputFiles(file('cut.ifc', writeBoathouse(REVISIONS.R1).slice(0, 250_000)));
  await expect(page.getByText(/The file stops in the middle/)).toBeVisible({ timeout: 60_000 });
});

test('a large import shows its progress and can be stopped', async ({ page }) => {
  await makeProject(page, 'Large');
  await page.getByTestId('file-input').setInputFiles(file('large.ifc', writeBoathouse(REVISIONS.R1, { copies: 10 })));
  await expect(page.getByText(/Reading the file|Measuring|Drawing/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Stop' }).click({ timeout: 30_000 });
  await expect(page.getByText('Stopped by you.')).toBeVisible();
});
