/**
 * How a figure meets a limit. Measured figures are off in their last digits (0.8 m comes as 0.7999999999999998), so a figure that lies
 * within the larger of 1e-6 in SI and 1e-9 of the limit is at it. Every edge of the project is judged here: ranges of scales,
 * comparisons in formulas and scopes, whole counts, packs, lengths.
 */
const SLACK_SI = 1e-6;
const SLACK_SHARE = 1e-9;
/** A step is never blurred by more than this share of it, however small it is. */
const MOST_OF_STEP = 1e-3;

/** How far off a figure may lie to be at a limit. @param factor SI of one of the unit both are in */
function slackAt(limit: number, factor: number): number {
  return Math.max(SLACK_SI / factor, SLACK_SHARE * Math.abs(limit));
}

/** Whether two figures of one unit are the same. @param factor SI of one of that unit; 1 for SI */
export function isAt(figure: number, limit: number, factor = 1): boolean {
  return figure === limit || (Number.isFinite(limit) && Math.abs(figure - limit) <= slackAt(limit, factor));
}

/** figure >= limit. */
export const reaches = (figure: number, limit: number, factor = 1): boolean =>
  figure >= limit || isAt(figure, limit, factor);

/** figure < limit. */
export const isBelow = (figure: number, limit: number, factor = 1): boolean => !reaches(figure, limit, factor);

/** figure > limit. */
export const exceeds = (figure: number, limit: number, factor = 1): boolean =>
  figure > limit && !isAt(figure, limit, factor);

/** How many steps a figure may be off to be whole. */
function slackInSteps(figure: number, step: number, factor: number): number {
  return Math.min(slackAt(figure, factor) / step, MOST_OF_STEP);
}

/** Started steps in a figure. @example stepsUp(2.4000000001, 0.6) // 4; stepsUp(2.5, 0.6) // 5 */
export function stepsUp(figure: number, step = 1, factor = 1): number {
  // Adding 0 turns a negative zero into a plain one.
  return Math.ceil(figure / step - slackInSteps(figure, step, factor)) + 0;
}

/** Full steps in a figure. @example stepsDown(2.9999999999, 1) // 3 */
export function stepsDown(figure: number, step = 1, factor = 1): number {
  return Math.floor(figure / step + slackInSteps(figure, step, factor)) + 0;
}

/** Nearest whole number of steps, halves away from zero. @example stepsNear(2.5) // 3; stepsNear(-2.5) // -3 */
export function stepsNear(figure: number, step = 1, factor = 1): number {
  const steps = Math.abs(figure / step) + slackInSteps(figure, step, factor);
  return Math.sign(figure) * Math.sign(step) * Math.round(steps) + 0;
}
