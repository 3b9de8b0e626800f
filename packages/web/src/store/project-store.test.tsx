/** @jest-environment jsdom */
import { encodeElementTable, type RevisionDto, type SourceDto } from '@tally/core';
import { act, screen, waitFor } from '@testing-library/react';
import { renderInProject, sampleState } from '../testing/in-project.tsx';
import { sampleLayer } from '../testing/sample-layer.ts';
import { sampleWalls } from '../testing/sample-table.ts';
import { useBasis, useProjectState } from './project-store.tsx';
import { useElements, useFromTables } from './use-elements.ts';

const revision = { id: 'r1', sourceId: 's', state: 'counting', geometryState: 'done', chunks: 0 } as RevisionDto;
const source = { id: 's', revisions: [revision] } as unknown as SourceDto;

describe('the open project', () => {
  it('draws what asks for a part again only when that part changes', () => {
    const drawn = { rules: 0, rates: 0, money: 0 };
    const Rules = () => <p>{useBasis('rules').rules.length + 0 * drawn.rules++}</p>;
    const Rates = () => <p>{useBasis('items').items[0]!.rate + ''.repeat(drawn.rates++)}</p>;
    const Money = () => <p>{useProjectState('money', 'project').money.currency + ''.repeat(drawn.money++)}</p>;
    const content = [<Rules key="1" />, <Rates key="2" />, <Money key="3" />];
    const state = sampleState();
    const { come } = renderInProject(content, {}, state);
    const first = { ...drawn };
    const items = state.basis.items.map((i) => ({ ...i, rate: '130.00' }));
    const project = { ...state.project, seq: 8 };
    come({ ...state, project, summary: { ...state.summary, total: 312_000 }, basis: { ...state.basis, items } });
    expect([drawn.rules - first.rules, drawn.rates - first.rates, drawn.money - first.money]).toEqual([0, 1, 0]);
    expect(screen.getByText('130.00')).toBeTruthy();
  });
  it('has the elements of its revisions, with what it adds to them, and works things out of them once', async () => {
    let worked = 0;
    const sumLengths = (tables: readonly ReturnType<typeof sampleWalls>[]) => {
      worked++;
      return tables.reduce((sum, t) => sum + (t.quantities[0]?.values.reduce((a, b) => a + b, 0) ?? 0), 0);
    };
    function Walls() {
      const { find, tables } = useElements();
      const grade = tables[0]?.properties.find((p) => p.name === 'Grade')?.values[0];
      return (
        <p>
          {useFromTables(sumLengths)} m, {useFromTables(sumLengths)} m, 12 in row {String(find(12)?.row)},{' '}
          {String(grade)}
        </p>
      );
    }
    const state = sampleState({ sources: [source] });
    const { come } = renderInProject(<Walls />, {}, state);
    globalThis.fetch = (async () => {
      const bytes = encodeElementTable(sampleWalls());
      return { ok: true, status: 200, arrayBuffer: async () => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) }; // biome-ignore format: one answer
    }) as never;
    expect(await screen.findByText('12 m, 12 m, 12 in row 1, undefined', undefined, { timeout: 8000 })).toBeTruthy();
    const before = worked;
    act(() => come({ ...state, project: { ...state.project, seq: 8 } }));
    expect(worked).toBe(before);
    act(() => come({ ...state, layer: sampleLayer({ attributes: { '12': { Grade: 'C24' } } }) }));
    await waitFor(() => expect(screen.getByText(/row 1, C24/)).toBeTruthy());
    expect(worked).toBe(before + 1);
  }, 20_000);
});
