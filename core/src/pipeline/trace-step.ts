import { traceLabels, type Trace, type TraceSettings } from '../trace/trace.js';
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

/** How outlines follow the pixels of a picture, as its recipe has it. */
export function outlineSettings({ prepared }: Reduced, view: PictureView): Required<TraceSettings> {
  const { pixelsPerMm } = prepared;
  const { strictnessMm, cornerSharpness, lineBelowMm } = view.pieces;
  return {
    tolerance: Math.max(0.3, strictnessMm * pixelsPerMm),
    cornerSharpness,
    widestLine: lineBelowMm * pixelsPerMm,
  };
}

/** Outlines of all areas of a picture's label map. */
export function traceOf(reduced: Reduced, view: PictureView, cache: StepCache): Promise<Trace> {
  const { map, prepared } = reduced;
  const { placed } = prepared;
  return cache.run(traceStep, { map, placed, ...outlineSettings(reduced, view) }, undefined, view.id);
}
