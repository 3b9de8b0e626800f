import type { PricingBasis } from '@tally/core';
import { type ManifestAdditions, writePlanManifest as write } from './plan-manifest.ts';

const item = (code: string, rate: string) => ({ code, description: '', kind: 'material' as const, unit: 'm2', rate });
const basis = (more: Partial<PricingBasis> = {}): PricingBasis => ({
  currency: 'EUR',
  items: [item('A', '1.00'), item('B', '2.00')],
  assemblies: [],
  sections: [],
  rules: [],
  pins: [],
  ...more,
});
const source = (sourceId: string) => ({ sourceId, revisionId: `r-${sourceId}`, tableHash: 'h', readerVersion: '1' });

const NOTHING: ManifestAdditions = {
  layer: {
    identities: {},
    attributes: {},
    finishes: {},
    wallFinishes: {},
    zones: {},
    facts: {},
    given: {},
    drawnRooms: {},
    allowances: {},
    limits: [],
    chosenFaces: {},
    leftOut: {},
    materials: [],
  },
  choices: {},
};
const writePlanManifest = (
  b: PricingBasis,
  sources: readonly ReturnType<typeof source>[],
  additions: ManifestAdditions = NOTHING,
) => write(b, sources, additions);

describe('the manifest of a plan', () => {
  it('is the same whatever the order of the book and of keys', () => {
    const [a, b] = basis().items;
    const turned = { unit: b!.unit, rate: b!.rate, kind: b!.kind, description: b!.description, code: b!.code };
    expect(writePlanManifest(basis({ items: [turned, a!] }), [source('y'), source('x')])).toEqual(
      writePlanManifest(basis(), [source('x'), source('y')]),
    );
  });
  it('tells what a project adds and chooses apart', () => {
    const { additionsHash } = writePlanManifest(basis(), []);
    const finished = { ...NOTHING, layer: { ...NOTHING.layer, finishes: { '7': { floor: 'Oak' } } } };
    const chosen = { ...NOTHING, choices: { quantityChoices: { Length: 'stated' as const } } };
    const others = [finished, chosen].map((a) => writePlanManifest(basis(), [], a).additionsHash);
    expect(new Set([additionsHash, ...others]).size).toBe(3);
  });
  it('tells a rate, a rule and a revision apart', () => {
    const plain = writePlanManifest(basis(), [source('x')]);
    const dearer = writePlanManifest(basis({ items: [item('A', '1.01'), item('B', '2.00')] }), [source('x')]);
    expect(dearer.bookHash).not.toBe(plain.bookHash);
    expect(dearer.rulesHash).toBe(plain.rulesHash);
    const rule = { id: 'r', name: 'R', scope: { all: [] }, leaveOut: 'later' };
    expect(writePlanManifest(basis({ rules: [rule] }), [source('x')]).rulesHash).not.toBe(plain.rulesHash);
    expect(writePlanManifest(basis(), [{ ...source('x'), tableHash: 'other' }]).sources).not.toEqual(plain.sources);
  });
});
