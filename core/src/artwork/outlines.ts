import { SVGPathData, SVGPathDataParser } from 'svg-pathdata';
import type { Curve } from '../geometry/curve.js';
import { lengthIn, numbersIn } from './lengths.js';

import type { SvgElement } from './svg-tree.js';

/** Curves of a drawn element, before it is placed. */
export interface Outline {
  readonly curves: readonly Curve[];
  readonly closed: readonly boolean[];
  /** What is wrong with its data, where something is. */
  readonly fault?: string;
}

/** Handles of a quarter circle as a cubic. */
export const QUARTER = 0.5522847498;

class Pen {
  readonly curves: Curve[] = [];
  readonly closed: boolean[] = [];
  private points: number[] = [];
  private kinds: ('L' | 'C')[] = [];

  moveTo(x: number, y: number): void {
    this.finish(false);
    this.points = [x, y];
  }

  lineTo(x: number, y: number): void {
    this.points.push(x, y);
    this.kinds.push('L');
  }

  curveTo(...points: [number, number, number, number, number, number]): void {
    this.points.push(...points);
    this.kinds.push('C');
  }

  close(): void {
    const { points } = this;
    const [x, y] = points;
    const n = points.length;
    if (n >= 4 && (points[n - 2] !== x || points[n - 1] !== y)) this.lineTo(x, y);
    this.finish(true);
    this.points = [x, y];
  }

  finish(closed: boolean): void {
    if (this.kinds.length > 0) {
      this.curves.push({ points: this.points, kinds: this.kinds });
      this.closed.push(closed);
    }
    this.points = [];
    this.kinds = [];
  }

  done(fault?: string): Outline {
    this.finish(false);
    return { curves: this.curves, closed: this.closed, fault };
  }
}

/** Elements that draw something. */
export const DRAWN = ['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon'] as const;

/** The curves of an element that draws something, in its own units. */
export function outlineOf(element: SvgElement, viewWidth: number, viewHeight: number): Outline {
  const { attributes: a, name } = element;
  const across = (key: string): number => lengthIn(a[key], viewWidth) ?? 0;
  const down = (key: string): number => lengthIn(a[key], viewHeight) ?? 0;
  const pen = new Pen();
  switch (name) {
    case 'path':
      return pathOutline(a['d'] ?? '');
    case 'rect': {
      const [w, h] = [across('width'), down('height')];
      if (w > 0 && h > 0) roundedRectangle(pen, across('x'), down('y'), w, h, radii(a, w, h, viewWidth, viewHeight));
      return pen.done();
    }
    case 'circle': {
      const r = lengthIn(a['r'], Math.sqrt((viewWidth * viewWidth + viewHeight * viewHeight) / 2)) ?? 0;
      if (r > 0) ellipse(pen, across('cx'), down('cy'), r, r);
      return pen.done();
    }
    case 'ellipse': {
      const [rx, ry] = [across('rx'), down('ry')];
      if (rx > 0 && ry > 0) ellipse(pen, across('cx'), down('cy'), rx, ry);
      return pen.done();
    }
    case 'line':
      pen.moveTo(across('x1'), down('y1'));
      pen.lineTo(across('x2'), down('y2'));
      return pen.done();
    default: {
      const points = numbersIn(a['points']);
      if (points.length < 4) return pen.done();
      pen.moveTo(points[0], points[1]);
      for (let i = 2; i + 1 < points.length; i += 2) pen.lineTo(points[i], points[i + 1]);
      if (name === 'polygon') pen.close();
      return pen.done();
    }
  }
}

function radii(
  a: Readonly<Record<string, string>>,
  w: number,
  h: number,
  viewWidth: number,
  viewHeight: number,
): [number, number] {
  const rx = lengthIn(a['rx'], viewWidth);
  const ry = lengthIn(a['ry'], viewHeight);
  const most = (v: number, side: number): number => Math.max(0, Math.min(v, side / 2));
  return [most(rx ?? ry ?? 0, w), most(ry ?? rx ?? 0, h)];
}

function roundedRectangle(pen: Pen, x: number, y: number, w: number, h: number, [rx, ry]: [number, number]): void {
  const [kx, ky] = [rx * (1 - QUARTER), ry * (1 - QUARTER)];
  pen.moveTo(x + rx, y);
  pen.lineTo(x + w - rx, y);
  if (rx > 0) pen.curveTo(x + w - kx, y, x + w, y + ky, x + w, y + ry);
  pen.lineTo(x + w, y + h - ry);
  if (rx > 0) pen.curveTo(x + w, y + h - ky, x + w - kx, y + h, x + w - rx, y + h);
  pen.lineTo(x + rx, y + h);
  if (rx > 0) pen.curveTo(x + kx, y + h, x, y + h - ky, x, y + h - ry);
  pen.lineTo(x, y + ry);
  if (rx > 0) pen.curveTo(x, y + ky, x + kx, y, x + rx, y);
  pen.close();
}

function ellipse(pen: Pen, cx: number, cy: number, rx: number, ry: number): void {
  const [kx, ky] = [rx * QUARTER, ry * QUARTER];
  pen.moveTo(cx + rx, cy);
  pen.curveTo(cx + rx, cy + ky, cx + kx, cy + ry, cx, cy + ry);
  pen.curveTo(cx - kx, cy + ry, cx - rx, cy + ky, cx - rx, cy);
  pen.curveTo(cx - rx, cy - ky, cx - kx, cy - ry, cx, cy - ry);
  pen.curveTo(cx + kx, cy - ry, cx + rx, cy - ky, cx + rx, cy);
  pen.close();
}

/** Path data; what follows a fault in it is left out, as SVG says. */
export function pathOutline(d: string): Outline {
  const commands: SVGPathData['commands'] = [];
  let fault: string | undefined;
  const parser = new SVGPathDataParser();
  try {
    parser.parse(d, commands);
    parser.finish(commands);
  } catch (error) {
    fault = `its path data is damaged (${(error as Error).message.slice(0, 80)})`;
  }
  const pen = new Pen();
  if (commands.length === 0) return pen.done(fault);
  const first = commands[0].type;
  if (first !== SVGPathData.MOVE_TO) return pen.done(fault ?? 'its path data does not begin with a move');
  let simple: SVGPathData['commands'];
  try {
    simple = new SVGPathData(commands).toAbs().normalizeHVZ(false).normalizeST().aToC().qtToC().commands;
  } catch {
    return pen.done('its path data cannot be read');
  }
  for (const c of simple) {
    if (Object.values(c).some((v) => typeof v === 'number' && !Number.isFinite(v)))
      return pen.done('its path data has no finite numbers');
    if (c.type === SVGPathData.MOVE_TO) pen.moveTo(c.x, c.y);
    else if (c.type === SVGPathData.LINE_TO) pen.lineTo(c.x, c.y);
    else if (c.type === SVGPathData.CURVE_TO) pen.curveTo(c.x1, c.y1, c.x2, c.y2, c.x, c.y);
    else if (c.type === SVGPathData.CLOSE_PATH) pen.close();
  }
  return pen.done(fault);
}
