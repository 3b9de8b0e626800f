import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { tellChange } from './tell-change.ts';

/** A client that keeps the last parts of the keys that are read again. */
function makeClient(): { client: QueryClient; told: () => string[] } {
  const client = new QueryClient();
  const keys: string[] = [];
  client.invalidateQueries = (async ({ queryKey }: { queryKey: readonly unknown[] }) => {
    keys.push(queryKey.slice(2).join('/'));
  }) as unknown as QueryClient['invalidateQueries'];
  return { client, told: () => keys.splice(0).sort() };
}
const change = (seq: number, move: object | null = {}) => ({ projectId: 'p', seq, move });

describe('a change that is told', () => {
  it('by its answer and by the stream is read once', () => {
    const { client, told } = makeClient();
    void tellChange(client, change(4), ['book']);
    expect(told()).toEqual(['changes', 'findings', 'of-plan', 'slice/book', 'summary']);
    void tellChange(client, change(4), ['book']);
    expect(told()).toEqual([]);
    void tellChange(client, change(3), ['layer']);
    expect(told()).toContain('slice/layer');
  });
  it('again with its move is read again, not once more without', () => {
    const { client, told } = makeClient();
    void tellChange(client, change(4, null), ['rules']);
    expect(told()).toContain('slice/rules');
    void tellChange(client, change(4, null), ['rules']);
    expect(told()).toEqual([]);
    void tellChange(client, change(4), ['rules']);
    expect(told()).toContain('of-plan');
    void tellChange(client, change(4, null), ['rules']);
    expect(told()).toEqual([]);
  });
  it('again with slices that its answer did not know of is read for these, in whichever order they come', () => {
    const { client, told } = makeClient();
    void tellChange(client, change(4), ['book']);
    told();
    void tellChange(client, change(4), ['book', 'notes']);
    expect(told()).toEqual(['changes', 'findings', 'slice/notes', 'summary']);
    void tellChange(client, change(4), ['book']);
    void tellChange(client, change(4, null), ['notes']);
    expect(told()).toEqual([]);
    void tellChange(client, change(5), ['book', 'notes']);
    told();
    void tellChange(client, change(5), ['book']);
    expect(told()).toEqual([]);
  });
  it('of what no plan depends on leaves the plan as it is read', () => {
    const { client, told } = makeClient();
    void tellChange(client, change(1), ['notes']);
    expect(told()).toEqual(['changes', 'findings', 'slice/notes', 'summary']);
  });
  it('in one project says nothing about another', () => {
    const { client, told } = makeClient();
    void tellChange(client, change(1), ['rules']);
    told();
    void tellChange(client, { ...change(1), projectId: 'q' }, ['rules']);
    expect(told()).toContain('slice/rules');
  });
});

describe('what is on its way when a change is told', () => {
  it('is read once more when it has come, for it may be of the state before', async () => {
    const client = new QueryClient();
    const gates: ((rate: string) => void)[] = [];
    const observer = new QueryObserver(client, {
      queryKey: ['project', 'p', 'changes', 'rates', 'M-GYP'],
      queryFn: () => new Promise<string>((resolve) => void gates.push(resolve)),
    });
    const end = observer.subscribe(() => undefined);
    expect(gates.length).toBe(1);
    const told = tellChange(client, change(7), ['book']);
    gates[0]!('12.00');
    while (gates.length < 2) await new Promise((resolve) => setTimeout(resolve, 1));
    gates[1]!('9.00');
    await told;
    expect(observer.getCurrentResult().data).toBe('9.00');
    end();
    client.clear();
  });
});
