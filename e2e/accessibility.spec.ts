import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './own-project.ts';

const PLACES = [
  'sources',
  'model',
  'takeoff',
  'mapping',
  'mapping?view=rules',
  'mapping?view=matrix',
  'book',
  'plan',
  'plan?view=purchases',
  'plan?view=allowances',
  'changes',
  'findings',
  'settings',
  'design-desk',
];

test('every page is without serious faults for those who do not see or point, light and dark', async ({
  page,
  own,
}) => {
  test.setTimeout(240_000);
  const faults: string[] = [];
  const look = async (name: string) => {
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze();
    for (const { id, impact, nodes } of violations)
      if (impact === 'serious' || impact === 'critical')
        faults.push(`${name}: ${id}, ${nodes.length} x ${nodes[0]?.html.slice(0, 160)}`);
  };
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Make project' })).toBeVisible();
  await look('projects');
  for (const place of PLACES) {
    await page.goto(`${own}/${place}`);
    await expect(page.getByTestId('tape-total')).toBeVisible();
    // What a page reads by itself is there.
    await page.waitForLoadState('networkidle', { timeout: 5000 }).catch(() => undefined);
    await page.waitForTimeout(500);
    await look(place);
  }
  await page.evaluate(() => document.documentElement.setAttribute('data-scheme', 'dark'));
  for (const place of ['takeoff', 'plan', 'mapping']) {
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place, exact: false }).first().click(); // biome-ignore format: one step
    await page.waitForTimeout(500);
    await look(`${place}, dark`);
  }
  expect(faults).toEqual([]);
});
