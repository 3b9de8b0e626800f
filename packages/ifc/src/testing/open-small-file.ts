import { StepFile } from '../step/step-file.ts';
import { indexStepFile } from '../step/step-index.ts';
import { wrapIfc } from './small-file.ts';

/** A file of a few records, opened. */
export function openSmallFile(data: string): StepFile {
  const read = indexStepFile(new TextEncoder().encode(wrapIfc(data)));
  if (!read.ok) throw new Error(read.problem.message);
  return new StepFile(read.value);
}
