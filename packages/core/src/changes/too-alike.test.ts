import { ByCode } from '../units/code-key.ts';
import { findTooAlike } from './too-alike.ts';

const entry = (kind: string, id: string) => ({ kind, id, body: {} });
const added = (...entries: ReturnType<typeof entry>[]) => ({ added: entries, updated: [], removed: [] });

describe('codes that nobody could tell apart', () => {
  const known = [entry('item', 'M-1'), entry('item', 'M-Ö1'), entry('value', 'Oil finish')];
  it.each([
    ['item', 'm-1', 'M-1'],
    ['item', 'M-O\u03081', 'M-Ö1'],
    ['value', 'OilFinish', 'Oil finish'],
    ['value', 'oil Finish', 'Oil finish'],
  ])('%s %s is refused beside %s', (kind, id, other) =>
    expect(findTooAlike(known, added(entry(kind, id)))).toMatchObject({ other }),
  );
  it.each([
    ['item', 'M1'],
    ['item', 'M-O1'],
    ['item', 'M-11'],
    ['assembly', 'm-1'],
    ['value', 'Oil finish 2'],
  ])('%s %s is another', (kind, id) => expect(findTooAlike(known, added(entry(kind, id)))).toBeNull());
  it('two of one change are held against each other; what goes makes room', () => {
    expect(findTooAlike([], added(entry('item', 'a'), entry('item', 'A')))).toMatchObject({ other: 'a' });
    expect(findTooAlike(known, { ...added(entry('item', 'm-1')), removed: [entry('item', 'M-1')] })).toBeNull();
  });
});

describe('a code is found', () => {
  const codes = (...list: string[]) => new ByCode(list.map((code) => ({ code })));
  it('as written first', () => expect(codes('a', 'A').get('A')).toEqual({ code: 'A' }));
  it('in another case if one only is like it', () => {
    expect(codes('M-1').get('m-1')).toEqual({ code: 'M-1' });
    expect(codes('ab', 'AB').get('Ab')).toBeUndefined();
  });
  it('never without its accents or dashes', () => {
    expect(codes('11-1').get('1-11')).toBeUndefined();
    expect(codes('M-Ö1').get('M-O1')).toBeUndefined();
  });
});
