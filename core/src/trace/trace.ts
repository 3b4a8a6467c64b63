import type { Curve } from '../geometry/curve.js';
import type { Raster } from '../picture/raster.js';
import { findBoundaries, type Boundaries } from './boundaries.js';
import { findCorners } from './corners.js';
import { assembleFaces, type Face } from './faces.js';
import { fitCurve } from './fit.js';
import type { LabelMap } from './labels.js';
import { markLineParts } from './line-parts.js';
import { placeEdges } from './place-edges.js';

export interface TraceSettings {
  /** How far an outline may leave the edge it was found on, in pixels. */
  readonly tolerance: number;
  /** 1 is normal; larger keeps more corners sharp. */
  readonly cornerSharpness: number;
  /** Widest line, in pixels, that is told from the solid area it runs into; 0 tells none. */
  readonly widestLine?: number;
}

/** Outlines of all areas of a label map, in pixels; neighbours share their arcs. */
export interface Trace {
  readonly bounds: Boundaries;
  readonly faces: readonly Face[];
  /** Fitted arcs, in the order of `bounds.arcs`. */
  readonly curves: readonly Curve[];
}

/** Traces a label map: crack edges, sub-pixel places, corners, lines and cubics, outlines. */
export function traceLabels(map: LabelMap, raster: Raster, settings: TraceSettings): Trace {
  const { labels: colours, width, height, ground } = map;
  // Colours of a photograph have ragged edges: what is thin there is no drawn line.
  const widest = map.smoothEdges ? (settings.widestLine ?? 0) : 0;
  const labels = widest > 0 ? markLineParts(colours, width, height, widest, ground) : colours;
  const bounds = findBoundaries(labels, width, height);
  const curves = bounds.arcs.map((arc) => {
    const points = placeEdges(arc, bounds, raster, map.palette, map.smoothEdges);
    const corners = findCorners(points, arc.closed, settings.cornerSharpness);
    return fitCurve(points, corners, arc.closed, settings.tolerance);
  });
  return { bounds, curves, faces: assembleFaces(bounds, curves) };
}
