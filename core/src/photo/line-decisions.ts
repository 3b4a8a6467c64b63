import type { DesignThread } from '../colour/design-thread.js';
import { isInside } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import type { Layer } from './methods/render-method.js';

/** What is done to lines of a rendering. */
export interface LineChange {
  readonly kind: 'delete' | 'thin' | 'recolour';
  /** Hexes of the threads meant; all where the list is empty. */
  readonly threads: readonly string[];
  /** Where: a ring in mm; everywhere where it is empty. */
  readonly area: Points;
  /** The thread that lines get. */
  readonly to?: DesignThread;
}

/** Shorter stitches are ways between lines. */
const LINE_MM = 0.8;

/**
 * Deletes, thins or recolours lines of a rendering, one change after the other. A stretch that is cut goes on as several;
 * what is recoloured is sewn right after the thread it was of.
 */
export function changeLines(
  layers: readonly Layer[],
  threads: readonly DesignThread[],
  changes: readonly LineChange[],
): { layers: Layer[]; threads: DesignThread[] } {
  const all = threads.slice();
  let now = layers.slice();
  for (const change of changes) {
    const wanted = new Set(change.threads.map((hex) => hex.toLowerCase()));
    const to = change.to ? threadIndex(all, change.to) : -1;
    now = now.flatMap((layer): Layer[] => {
      const { thread } = layer;
      if (thread === to || (wanted.size > 0 && !wanted.has(all[thread].hex.toLowerCase()))) return [layer];
      const kept: Points[] = [];
      const taken: Points[] = [];
      for (const run of layer.runs) divide(run, change, kept, taken);
      const rest = kept.length > 0 ? [{ ...layer, runs: kept }] : [];
      return to >= 0 && taken.length > 0 ? [...rest, { thread: to, runs: taken, openMm: 0 }] : rest;
    });
  }
  return { layers: now, threads: all };
}

function threadIndex(threads: DesignThread[], thread: DesignThread): number {
  const same = threads.findIndex((t) => t.hex === thread.hex && t.chart === thread.chart);
  return same >= 0 ? same : threads.push(thread) - 1;
}

/** Divides a run into what stays and what is taken. */
function divide(run: Points, { kind, area }: LineChange, kept: Points[], taken: Points[]): void {
  const ring = area.length >= 6 ? [area] : undefined;
  let line = 0;
  let current: Points | undefined;
  let into: Points[] | undefined;
  for (let i = 2; i < run.length; i += 2) {
    const [ax, ay, bx, by] = [run[i - 2], run[i - 1], run[i], run[i + 1]];
    const inside = !ring || isInside(ring, (ax + bx) / 2, (ay + by) / 2);
    if (inside && distance(ax, ay, bx, by) >= LINE_MM) line++;
    // Lines go to and fro: only pairs of them can be left out without a long way.
    const goes = inside && (kind !== 'thin' || line % 4 >= 2);
    const list = goes ? taken : kept;
    if (list !== into || !current) {
      into = list;
      current = [ax, ay];
      list.push(current);
    }
    current.push(bx, by);
  }
}
