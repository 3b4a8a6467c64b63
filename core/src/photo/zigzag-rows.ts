import { direction, type Points } from '../geometry/vector.js';
import { joinStretches } from './join-stretches.js';
import type { Layer } from './methods/render-method.js';
import type { Plate } from './plate.js';

/** How rows of zigzag are laid over a picture. */
export interface RowSettings {
  readonly angle: number;
  /** Distance of rows in mm. */
  readonly spacingMm: number;
  /** Way along the row from one needle point to the next at the same side, at the darkest. */
  readonly pitchMm: number;
  /** Slant of the zigzag: how far its upper needle points run ahead of the lower ones, as an angle. */
  readonly slant: number;
  /** Places that want less than this stay bare. */
  readonly leastCover: number;
  /** Ways up to this are sewn, over more the thread is cut. */
  readonly trimOverMm: number;
  readonly thread: number;
}

/** Widest zigzag in shares of the distance of rows: neighbours just meet. */
const WIDEST = 1.02;
/** A row may go on as a plain line over gaps up to this, in mm. */
const BRIDGE_MM = 3;
/** Stretches of row shorter than this are not sewn. */
const SHORTEST_MM = 1.6;
const OPEN_PITCH = 8;
const THREAD_MM = 0.3;
const SHORTEST_STITCH_MM = 0.5;

/**
 * Rows of zigzag that follow a picture. What a place wants is a number from 0 (bare) to 1 (as close as it gets); how close
 * the zigzag becomes for it is decided by a table that was measured.
 * @param wanted cover wanted at a place in mm, below 0 where nothing may be sewn
 * @param amount how strong the pattern must be for a cover, 0 to 1
 */
export function zigzagRows(
  plate: Plate,
  settings: RowSettings,
  wanted: (x: number, y: number) => number,
  amount: (cover: number) => number,
): Layer {
  const { angle, spacingMm } = settings;
  const u = direction(angle);
  const halfW = plate.width / plate.scale / 2;
  const halfH = plate.height / plate.scale / 2;
  const midX = plate.left + halfW;
  const midY = plate.top + halfH;
  const reachX = Math.abs(u.x) * halfW + Math.abs(u.y) * halfH;
  const reachY = Math.abs(u.y) * halfW + Math.abs(u.x) * halfH;
  const rows = Math.max(1, Math.floor((2 * reachY) / spacingMm));
  const at = (lx: number, ly: number): [number, number] => [midX + lx * u.x - ly * u.y, midY + lx * u.y + ly * u.x];
  const stretches: Points[] = [];
  for (let r = 0; r < rows; r++) {
    const ly = (r + 0.5) * spacingMm - (rows * spacingMm) / 2;
    for (const [from, to] of sewnParts(settings, reachX, (lx) => wanted(...at(lx, ly)))) {
      const points = sewStretch(settings, from, to, (lx) => amount(Math.max(0, wanted(...at(lx, ly)))));
      const placed: Points = [];
      for (let i = 0; i < points.length; i += 2) placed.push(...at(points[i], ly + points[i + 1]));
      if (placed.length >= 4) stretches.push(placed);
    }
  }
  return { thread: settings.thread, runs: joinStretches(stretches, settings.trimOverMm), openMm: 0 };
}

/** Where along a row something is to be sewn; short gaps are gone over. */
function sewnParts(
  { leastCover }: RowSettings,
  reach: number,
  wanted: (lx: number) => number,
): [from: number, to: number][] {
  const step = 0.25;
  const parts: [number, number][] = [];
  let from = NaN;
  let last = NaN;
  const close = (): void => {
    if (last - from >= SHORTEST_MM) parts.push([from, last]);
    from = NaN;
  };
  for (let lx = -reach + step / 2; lx <= reach; lx += step) {
    const cover = wanted(lx);
    if (cover >= leastCover) {
      if (Number.isNaN(from)) from = lx;
      last = lx;
    } else if (!Number.isNaN(from) && (cover < 0 || lx - last > BRIDGE_MM)) close();
  }
  if (!Number.isNaN(from)) close();
  return parts;
}

/** Needle points of one stretch of row, level, around the row's own height. */
function sewStretch(settings: RowSettings, from: number, to: number, amount: (lx: number) => number): Points {
  const { spacingMm, pitchMm, slant } = settings;
  const points: Points = [];
  const lean = Math.tan((slant * Math.PI) / 180);
  let lx = from;
  for (let side = 1; lx <= to + 1e-9; side = -side) {
    const strong = amount(lx);
    const half = (spacingMm * WIDEST - THREAD_MM) / 2;
    const pitch = Math.min(OPEN_PITCH, pitchMm / Math.max(0.01, strong));
    points.push(lx + side * half * lean, side * half);
    // No stitch shorter than half a millimetre.
    lx += Math.max(Math.sqrt(Math.max(0, SHORTEST_STITCH_MM ** 2 - 4 * half * half)), pitch / 2);
  }
  return points;
}
