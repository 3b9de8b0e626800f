import { test as base, expect } from '@playwright/test';

interface State {
  readonly summary: { readonly total: number };
}

/** A copy of the demo project that one test alone works on: its address. It is put away at the end. */
export const test = base.extend<{ readonly own: string }>({
  own: async ({ request }, use) => {
    // The demo reads its building when the server has started.
    await expect
      .poll(async () => ((await (await request.get('/api/projects/heron-wharf')).json()) as State).summary.total, {
        timeout: 60_000,
      })
      .toBe(58_317_339);
    const made = await request.post('/api/projects/heron-wharf/duplicate', { data: { name: 'Heron Wharf Boathouse' } });
    expect(made.status()).toBe(200);
    const { id } = (await made.json()) as { id: string };
    await use(`/projects/${id}`);
    // A connection that the server has closed meanwhile is opened again.
    const putAway = () => request.post(`/api/projects/${id}/put-away`, { data: {} });
    await putAway().catch(putAway);
  },
});

export { expect };
