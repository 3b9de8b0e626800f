import { expect, test } from './own-project.ts';

test('a view is left, reloaded and found as it was, and can be sent as a link', async ({ page, browser, own }) => {
  await page.goto(`${own}/plan`);
  await page.getByRole('button', { name: 'By work section', exact: true }).click();
  await page.getByRole('menuitem', { name: 'By storey' }).click();
  await expect(page).toHaveURL(/by=storey/);
  const plan = page.getByRole('treegrid', { name: 'Plan' });
  const group = plan.getByRole('row', { name: /Ground floor/ });
  await group.getByRole('button').first().click();
  await expect(plan.getByRole('row', { level: 2 }).first()).toBeVisible();
  const closed = await plan.getByRole('row').first().textContent();
  await page.getByRole('link', { name: 'Book' }).click();
  await page.getByRole('link', { name: 'Plan' }).click();
  await expect(page).toHaveURL(/by=storey/);
  await expect(group).toBeVisible();
  await page.reload();
  await expect(group).toBeVisible();
  expect(await plan.getByRole('row').first().textContent()).toBe(closed);

  await page.goto(`${own}/model`);
  await page.getByRole('combobox', { name: 'Storey' }).click();
  await page.getByRole('option', { name: 'Upper floor' }).click();
  await page.getByRole('button', { name: 'The list of elements (L)' }).click();
  await expect(page.getByPlaceholder('Find in the tree')).toBeHidden();
  const link = page.url();
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'Storey' })).toHaveText('Upper floor');
  await expect(page.getByPlaceholder('Find in the tree')).toBeHidden();
  await page.keyboard.press('l');
  await expect(page.getByPlaceholder('Find in the tree')).toBeVisible();

  // Another person, another browser: the link says what is looked at.
  const elsewhere = await (await browser.newContext()).newPage();
  await elsewhere.goto(link);
  await expect(elsewhere.getByRole('combobox', { name: 'Storey' })).toHaveText('Upper floor');
  await elsewhere.context().close();
});

test('the tape is narrowed to its figures and stays so; nothing of the frame is cut off on a small screen', async ({
  page,
  own,
}) => {
  await page.setViewportSize({ width: 1024, height: 720 });
  await page.goto(`${own}/takeoff`);
  const tape = page.getByRole('complementary', { name: 'Tape' });
  await expect(tape).toBeVisible();
  expect((await tape.boundingBox())!.width).toBeLessThan(130);
  await page.keyboard.press('t');
  await expect(page.getByText('Last moves', { exact: true })).toBeVisible();
  await page.keyboard.press('t');
  for (const place of ['Sources', 'Model', 'Takeoff', 'Mapping', 'Book', 'Plan', 'Changes', 'Findings', 'Settings']) {
    const link = page.getByRole('link', { name: place }).first();
    const box = (await link.boundingBox())!;
    expect([place, box.x >= 0 && box.x + box.width <= 1024 && box.height <= 44]).toEqual([place, true]);
    // What one sees is what is there: nothing lies over it.
    expect(await link.evaluate((a, [x, y]) => a.contains(document.elementFromPoint(x!, y!)), [box.x + box.width / 2, box.y + box.height / 2])).toBe(true); // biome-ignore format: one question
  }
});
