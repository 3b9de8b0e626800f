import type { Finding } from '../checks/finding.ts';
import { countOpenLines, listFindingLines, listProjectFindings } from './listed-findings.ts';

const missing = (id: string, material: string): Finding => ({
  code: 'density-missing',
  severity: 'warning',
  message: `No density of ${material}`,
  globalIds: [id],
  cause: material,
  material,
});
const open: Finding = { code: 'open-body', severity: 'notice', message: 'Open', globalIds: ['z'] };
const revision = (id: string, state: 'counting' | 'waiting' | 'kept', findings: Finding[]) => ({ id, state, findings });

describe('findings of a project', () => {
  const found = [missing('a', 'Quilt'), missing('b', 'Quilt'), missing('c', 'Board'), open];
  it('are those of revisions that count or wait', () => {
    const list = listProjectFindings([revision('r1', 'counting', [open]), revision('r2', 'kept', found), revision('r3', 'waiting', [open])], {}, []); // biome-ignore format: one call
    expect(list.map((f) => f.revisionId)).toEqual(['r1', 'r3']);
  });
  it('leave out what the project has answered: a material whose density it gives, in whatever letters', () => {
    const list = listProjectFindings([revision('r', 'counting', found)], {}, [{ name: ' quilt', density: 30 }]);
    expect(list.map((f) => f.finding.globalIds[0])).toEqual(['c', 'z']);
  });
  it('stand in a line with those of their cause, accepted ones apart; only open lines are counted', () => {
    const all = listProjectFindings([revision('r', 'counting', found)], {}, []);
    const accepted = { [all[1]!.key]: 'Bought in' };
    const list = listProjectFindings([revision('r', 'counting', found)], accepted, []);
    expect(listFindingLines(list).map((l) => l.map((f) => f.finding.globalIds[0]))).toEqual([['a'], ['b'], ['c'], ['z']]); // biome-ignore format: one line
    expect([countOpenLines(all), countOpenLines(list)]).toEqual([3, 3]);
    const closed = Object.fromEntries(all.map((f) => [f.key, 'Seen']));
    expect(countOpenLines(listProjectFindings([revision('r', 'counting', found)], closed, []))).toBe(0);
  });
});
