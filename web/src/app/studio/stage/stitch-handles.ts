import { direction, stitchKindOf, type AreaGradient, type Design } from '@open-kite/core';
import { endsOf } from './piece-ends';
import { toStage, type Camera, type Place, type Size } from './camera';
import { diamond, EMBER, INK, PAPER, ring } from './overlay';

/** What of a piece's stitches can be taken hold of on the stage. */
export type Handle = 'angle' | 'entry' | 'exit' | 'start' | 'end' | `stop${number}`;

/** Where the handles of a piece are, in CSS pixels of the stage. */
export interface Handles {
  readonly middle: Place;
  /** Ends of the line that shows the direction of the rows; undefined where rows have no angle. */
  readonly angle?: readonly [Place, Place];
  readonly entry?: Place;
  readonly exit?: Place;
  /** Start and end of a gradient, and its stops between them. */
  readonly start?: Place;
  readonly end?: Place;
  readonly stops?: readonly (Place & { readonly hex: string })[];
}

/** Half length of the line that turns the rows, in CSS pixels. */
const ARM = 46;
const NEAR = 11;
/** Angles snap to this with shift held. */
const SNAP = 15;

/** Places of the handles of one piece; undefined where it is not sewn. */
export function handlesOf(design: Design, index: number, camera: Camera, size: Size): Handles | undefined {
  const piece = design.pieces[index];
  if (!piece) return undefined;
  const ends = endsOf(design, index);
  if (!ends) return undefined;
  const middle = toStage(camera, size, piece.anchor.x, piece.anchor.y);
  const turns = 'angle' in stitchKindOf(piece.kind).options;
  const along = direction(angleOf(design, index));
  const end = (sign: number): Place => ({ x: middle.x + sign * ARM * along.x, y: middle.y + sign * ARM * along.y });
  return {
    middle,
    angle: turns ? [end(1), end(-1)] : undefined,
    entry: toStage(camera, size, ends.entry.x, ends.entry.y),
    exit: toStage(camera, size, ends.exit.x, ends.exit.y),
    ...gradientHandles(piece.gradient?.gradient, camera, size),
  };
}

function gradientHandles(
  gradient: AreaGradient | undefined,
  camera: Camera,
  size: Size,
): Pick<Handles, 'start' | 'end' | 'stops'> {
  if (!gradient) return {};
  const { x1, y1, x2, y2, stops } = gradient;
  return {
    start: toStage(camera, size, x1, y1),
    end: toStage(camera, size, x2, y2),
    stops: stops.map(({ at, hex }) => ({ ...toStage(camera, size, x1 + (x2 - x1) * at, y1 + (y2 - y1) * at), hex })),
  };
}

/** Place along a gradient of a place on the stage, 0 to 1. */
export function shareAlong({ start, end }: Handles, place: Place): number {
  if (!start || !end) return 0;
  const [dx, dy] = [end.x - start.x, end.y - start.y];
  const t = ((place.x - start.x) * dx + (place.y - start.y) * dy) / Math.max(1, dx * dx + dy * dy);
  return Math.min(1, Math.max(0, t));
}

/** The angle rows of a piece have, in degrees. */
export function angleOf(design: Design, index: number): number {
  const own = design.pieces[index].choices.values['angle'];
  return typeof own === 'number' ? own : design.rowAngles[index];
}

/** Which handle is at a place, entry and exit before the angle. */
export function handleAt(handles: Handles, place: Place): Handle | undefined {
  const isNear = (p: Place | undefined): boolean => p !== undefined && Math.hypot(p.x - place.x, p.y - place.y) <= NEAR;
  // Stops between the ends first: at an end it is the end that is pulled.
  const stops = handles.stops ?? [];
  const stop = stops.findIndex((p, i) => i > 0 && i < stops.length - 1 && isNear(p));
  if (stop > 0) return `stop${stop}`;
  if (isNear(handles.start)) return 'start';
  if (isNear(handles.end)) return 'end';
  if (isNear(handles.entry)) return 'entry';
  if (isNear(handles.exit)) return 'exit';
  return handles.angle?.some(isNear) ? 'angle' : undefined;
}

/** Angle of rows from a piece's middle to a place, from -90 to 90 degrees. */
export function angleTo(middle: Place, place: Place, snap: boolean): number {
  const degrees = (Math.atan2(place.y - middle.y, place.x - middle.x) * 180) / Math.PI;
  const half = degrees > 90 ? degrees - 180 : degrees <= -90 ? degrees + 180 : degrees;
  return snap ? Math.round(half / SNAP) * SNAP : Math.round(half);
}

/** Paints the line that turns the rows; entry and exit are marks of every chosen piece. */
export function paintHandles(context: CanvasRenderingContext2D, handles: Handles, dragged?: Place): void {
  if (handles.angle) {
    const [a, b] = handles.angle;
    for (const [width, colour] of [
      [5, PAPER],
      [2, INK],
    ] as const) {
      context.beginPath();
      context.moveTo(a.x, a.y);
      context.lineTo(b.x, b.y);
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.stroke();
    }
    for (const end of handles.angle) diamond(context, end.x, end.y, 7, INK);
  }
  if (handles.start && handles.end) {
    for (const [width, colour] of [
      [5, PAPER],
      [2, EMBER],
    ] as const) {
      context.beginPath();
      context.moveTo(handles.start.x, handles.start.y);
      context.lineTo(handles.end.x, handles.end.y);
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.stroke();
    }
    for (const stop of handles.stops ?? []) {
      diamond(context, stop.x, stop.y, 9, EMBER);
      diamond(context, stop.x, stop.y, 6, stop.hex);
    }
  }
  if (dragged) ring(context, dragged.x, dragged.y, 9, 2, EMBER);
}

/** Paints guide lines, and the one being drawn. */
export function paintGuides(
  context: CanvasRenderingContext2D,
  camera: Camera,
  size: Size,
  lines: readonly (readonly number[])[],
): void {
  context.save();
  context.lineJoin = 'round';
  for (const [width, colour, dash] of [
    [5, PAPER, []],
    [2, EMBER, [7, 4]],
  ] as const) {
    context.lineWidth = width;
    context.strokeStyle = colour;
    context.setLineDash([...dash]);
    for (const line of lines) {
      context.beginPath();
      for (let i = 0; i + 1 < line.length; i += 2) {
        const { x, y } = toStage(camera, size, line[i], line[i + 1]);
        if (i === 0) context.moveTo(x, y);
        else context.lineTo(x, y);
      }
      context.stroke();
    }
  }
  context.restore();
}
