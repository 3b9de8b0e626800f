import { boundBody, type ElementBody } from './element-body.ts';
import { type MeasureInput, type MeasureOutcome, measureElement } from './measure-element.ts';
import { isSaneBox } from './sane-box.ts';

interface Known {
  readonly input: MeasureInput;
  readonly outcome: MeasureOutcome;
}

/** Elements of one body that differ in what they are measured by: more of them are measured each for itself. */
const MOST_WAYS = 8;

/**
 * Measures elements one after the other. Many that are drawn by one body (the windows of a type) have the same figures: they are worked
 * out once and shared, only where each stands is its own. Elements with openings, meshes or nothing to measure are measured each for itself.
 */
export class AlikeMeasurer {
  private readonly byBody = new Map<ElementBody, Known[]>();

  measure(input: MeasureInput): MeasureOutcome {
    const { body, meshes, placement } = input;
    if (!body || !placement || meshes || body.openings.length > 0) return measureElement(input);
    const ways = this.byBody.get(body);
    const known = ways?.find((way) => isMeasuredAlike(way.input, input));
    const worldExtents = known && boundBody(body, placement, null);
    if (known && worldExtents && isSaneBox(worldExtents)) return { ...known.outcome, worldExtents };
    const outcome = measureElement(input);
    // What is lost at one place may be found at another.
    if (outcome.problem === 'size-out-of-range') return outcome;
    if (!ways) this.byBody.set(body, [{ input, outcome }]);
    else if (!known && ways.length < MOST_WAYS) ways.push({ input, outcome });
    return outcome;
  }
}

/** True if nothing that figures depend on, but where it stands, tells two elements of one body apart. */
function isMeasuredAlike(a: MeasureInput, b: MeasureInput): boolean {
  return (
    a.group === b.group &&
    a.layersM === b.layersM &&
    (a.overall?.widthM ?? null) === (b.overall?.widthM ?? null) &&
    (a.overall?.heightM ?? null) === (b.overall?.heightM ?? null) &&
    (a.up === b.up || (a.up !== undefined && b.up !== undefined && a.up.every((c, k) => c === b.up![k])))
  );
}
