/** @jest-environment jsdom */
import type { ExplainedQuantity } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { FigureForm } from './figure-form.tsx';

const LENGTH: ExplainedQuantity = { name: 'Length', value: 4, unit: 'm', basis: 'measured', method: 'swept' };
const DONE = { body: { projectId: 'p', seq: 8, move: null } };

function open(given = {}, answer = () => DONE as { body: unknown; status?: number }, quantity = LENGTH) {
  const done: string[] = [];
  const drawn = renderInProject(
    <FigureForm elementKey={12} quantity={quantity} onDone={() => done.push('done')} />,
    { 'POST /changes': answer },
    sampleState({ layer: sampleLayer({ given }) }),
  );
  return { ...drawn, done, sent: () => drawn.posted().at(-1)?.body as { cause: string; diff: Record<string, unknown[]> } | undefined }; // biome-ignore format: one record
}
const type = async (text: string, reason: string) => {
  const user = userEvent.setup();
  const field = screen.getByLabelText('Length, m');
  await user.clear(field);
  await user.type(field, text);
  if (reason) await user.type(screen.getByLabelText('Why'), reason);
  return user;
};

describe('a figure of an element set by hand', () => {
  it('is kept with its reason and with what the model had', async () => {
    const { done, sent } = open();
    const user = await type('4.25', 'Measured on site');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    await waitFor(() => expect(done).toEqual(['done']));
    expect(sent()!.cause).toBe('Length set by hand: Measured on site');
    expect(sent()!.diff.added).toMatchObject([
      { kind: 'given', id: '12', body: { Length: { value: 4.25, unit: 'm', was: 4, reason: 'Measured on site' } } },
    ]);
  }, 20_000);
  it.each([
    ['much', 'Because', /no figure of 0 or more/],
    ['-2', 'Because', /no figure of 0 or more/],
    ['5', '', /Say why/],
  ])(
    'is not kept as %p with the reason %p; what was typed stays',
    async (text, reason, why) => {
      const { posted } = open();
      const user = await type(text, reason);
      await user.click(screen.getByRole('button', { name: 'Set' }));
      expect((await screen.findByRole('alert')).textContent).toMatch(why);
      expect(posted()).toEqual([]);
      expect(screen.getByLabelText<HTMLInputElement>('Length, m').value).toBe(text);
    },
    20_000,
  );
  it('far from what the model has is asked about; who says no corrects it', async () => {
    const { posted } = open();
    const user = await type('42', 'Typed in a hurry');
    await user.keyboard('{Enter}');
    // 42 m where the model has 4: more than five times as much.
    expect(await screen.findByRole('dialog', { name: /42\.00\d? m\?/ })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Correct it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(posted()).toEqual([]);
  }, 20_000);
  it('goes back to the model’s own in one step, and says whose it is meanwhile', async () => {
    const known = { value: 4.25, unit: 'm' as const, was: 4, reason: 'On site', by: 'Ada', at: '2026-05-01' };
    const { sent, container } = open({ '12': { Length: known } }, undefined, {
      ...LENGTH,
      value: 4.25,
      basis: 'given',
    });
    expect(container.textContent).toMatch(/Set by Ada, 2026-05-01; the model had 4\.00\d? m\./);
    await userEvent.click(screen.getByRole('button', { name: /own again/ }));
    await waitFor(() => expect(sent()?.diff.removed).toHaveLength(1));
  }, 20_000);
  it('that is refused stays open with the reason', async () => {
    const { done } = open({}, () => refuse('Somebody changed it.'));
    const user = await type('4.25', 'On site');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    expect((await screen.findByRole('alert')).textContent).toContain('Somebody changed it.');
    expect(done).toEqual([]);
    expect(screen.getByLabelText<HTMLInputElement>('Why').value).toBe('On site');
  }, 20_000);
});
