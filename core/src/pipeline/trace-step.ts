import { traceLabels, type Trace } from '../trace/trace.js';
import type { LabelMap } from '../trace/labels.js';
import type { PictureView } from '../recipe/view.js';
import type { Reduced } from './colours.js';
import type { Placed } from './prepare.js';
import { step, type StepCache } from './step.js';

interface TraceInputs {
  readonly map: LabelMap;
  readonly placed: Placed;
  /** In pixels. */
  readonly tolerance: number;
  readonly cornerSharpness: number;
  readonly widestLine: number;
}

const traceStep = step('trace', ({ map, placed, ...how }: TraceInputs) => traceLabels(map, placed.picture, how));

/** Outlines of all areas of a picture's label map. */
export function traceOf({ prepared, map }: Reduced, view: PictureView, cache: StepCache): Promise<Trace> {
  const { pixelsPerMm, placed } = prepared;
  const { strictnessMm, cornerSharpness, lineBelowMm } = view.pieces;
  const tolerance = Math.max(0.3, strictnessMm * pixelsPerMm);
  const widestLine = lineBelowMm * pixelsPerMm;
  return cache.run(traceStep, { map, placed, tolerance, cornerSharpness, widestLine }, undefined, view.id);
}
