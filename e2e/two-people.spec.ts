import { demo } from './demo-figures.ts';
import { expect, test } from './own-project.ts';

test('two people write one rate at once: both texts stay until one of both is chosen', async ({
  page,
  context,
  own,
}) => {
  const other = await context.newPage();
  for (const p of [page, other]) {
    await p.goto(`${own}/book`);
    await p.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  }
  const rateOf = (p: typeof page) => p.getByRole('grid', { name: 'Cost items' }).getByRole('row', { name: /M-LOCK/ }).getByRole('gridcell').nth(4); // biome-ignore format: one cell
  await rateOf(page).dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('131');
  await rateOf(other).click();
  await other.keyboard.type('130');
  await other.keyboard.press('Enter');
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  // What is typed here is still here; the other's rate is told beside it.
  await expect(page.getByRole('grid', { name: 'Cost items' }).getByRole('textbox')).toHaveValue('131');
  await page.keyboard.press('Enter');
  // Told by the page, or by the server where the page has not heard of it yet.
  await expect(page.getByRole('alert').filter({ hasText: /meanwhile/ })).toBeVisible();
  await expect(page.getByRole('grid', { name: 'Cost items' }).getByRole('textbox')).toHaveValue('131');
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('tape-total')).toHaveText(demo(72));
  await expect(rateOf(other)).toHaveText('131.00');
});

test('two people write one rule at once: what only one changed is joined, what both changed is asked', async ({
  page,
  context,
  own,
}) => {
  const other = await context.newPage();
  for (const p of [page, other]) {
    await p.goto(`${own}/mapping?view=rules`);
    await p.getByText('Steel columns', { exact: true }).click();
  }
  await page.getByLabel('Name').fill('Columns of steel');
  await other.getByLabel('Name').fill('Steel posts');
  await other.getByRole('button', { name: 'Save the rule' }).click();
  const told = page.getByRole('alert').filter({ hasText: 'was changed by both' });
  await expect(told).toContainText('Theirs: Steel posts. Yours: Columns of steel.');
  await expect(page.getByRole('button', { name: 'Save the rule' })).toBeDisabled();
  await told.getByRole('button', { name: 'Keep yours' }).click();
  await expect(page.getByLabel('Name')).toHaveValue('Columns of steel');
  await page.getByRole('button', { name: 'Save the rule' }).click();
  await expect(other.getByText('Columns of steel', { exact: true })).toBeVisible();
});

test('what is typed while the server does not answer waits, and is sent when it does', async ({ page, own }) => {
  await page.goto(`${own}/book`);
  await page.getByRole('textbox', { name: 'Filter items' }).fill('locker, steel');
  const grid = page.getByRole('grid', { name: 'Cost items' });
  const rate = grid
    .getByRole('row', { name: /M-LOCK/ })
    .getByRole('gridcell')
    .nth(4);
  await expect(rate).toHaveText('128.00');
  await page.route('**/api/**', (route) => route.abort());
  await rate.click();
  await page.keyboard.type('130');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The server does not answer. What you type waits')).toBeVisible();
  // It stands where it was typed, and one goes on.
  await expect(rate).toHaveText('130');
  await expect(rate).toHaveAttribute('data-unsaved', 'waits');
  await page.unroute('**/api/**');
  await expect(page.getByTestId('tape-total')).toHaveText(demo(48));
  await expect(page.getByText('The server does not answer.')).toBeHidden();
  await expect(rate).toHaveText('130.00');
  await expect(rate).not.toHaveAttribute('data-unsaved');
});
