import { readPageView, writePageView } from './page-view.ts';

const initial = { storey: '', colours: 'natural' };

describe('how one looks at a page', () => {
  it('is what the address says, else what one had, else as it begins', () => {
    const params = new URLSearchParams('colours=completeness&other=1');
    expect(readPageView(params, { storey: 'Upper floor', colours: 'natural' }, initial)).toEqual({
      storey: 'Upper floor',
      colours: 'completeness',
    });
    expect(readPageView(new URLSearchParams(), {}, initial)).toEqual(initial);
  });
  it('stands in the address, without what is as it begins; what else is there stays', () => {
    const params = new URLSearchParams('storey=Ground+floor&rule=7');
    expect(writePageView(params, { storey: '', colours: 'completeness' }, initial).toString()).toBe('rule=7&colours=completeness'); // biome-ignore format: one address
    expect(writePageView(params, { storey: 'Obergeschoß 1', colours: 'natural' }, initial).get('storey')).toBe('Obergeschoß 1'); // biome-ignore format: one address
  });
});
