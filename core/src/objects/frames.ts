import { inverseOf, isIdentity, mapPoint, scaleOf } from '../artwork/matrix.js';
import { curveThrough, flattenRing, type Curve } from '../geometry/curve.js';
import { areaWithin, boundsOf, type Bounds } from '../geometry/polyline.js';
import type { Point, Points } from '../geometry/vector.js';
import { finishedSize, hoopToSource, placedFrame, sourceToHoop, type Placement } from '../picture/frame.js';
import { maskCurve } from '../picture/mask.js';
import { pathCurve } from '../pieces/drawn.js';
import type { ToHoop } from '../pieces/find-again.js';
import type { DesignObject } from './design-object.js';

/** An object's own frame: places of it on the cloth, and back. */
export interface Frame {
  readonly toHoop: ToHoop;
  readonly toFrame: (x: number, y: number) => { readonly u: number; readonly v: number };
  /** Millimetres a unit of the frame is wide on the cloth. */
  readonly unitMm: number;
}

const CLOTH: Frame = { toHoop: (x, y) => ({ x, y }), toFrame: (u, v) => ({ u, v }), unitMm: 1 };

/**
 * The frame of an object; null is that of the cloth, in mm. A picture's counts shares of its source's sides, a shape's
 * lies in that of the object it moves with, an outline has that of what it outlines.
 */
export function objectFrame(objects: readonly DesignObject[], id: string | null, depth = 0): Frame {
  const object = id === null ? undefined : objects.find((o) => o.id === id);
  if (!object || depth > objects.length) return CLOTH;
  switch (object.kind) {
    case 'picture': {
      const { picture } = object;
      return {
        toHoop: (u, v) => sourceToHoop(picture, u, v),
        toFrame: (x, y) => hoopToSource(picture, x, y),
        unitMm: picture.widthMm,
      };
    }
    case 'shape':
    case 'letters':
    case 'stitches': {
      const outer = objectFrame(objects, object.on, depth + 1);
      const { place } = object;
      if (isIdentity(place)) return outer;
      const back = inverseOf(place);
      return {
        toHoop: (u, v) => {
          const [x, y] = mapPoint(place, u, v);
          return outer.toHoop(x, y);
        },
        toFrame: (x, y) => {
          const { u, v } = outer.toFrame(x, y);
          const [p, q] = mapPoint(back, u, v);
          return { u: p, v: q };
        },
        unitMm: outer.unitMm * scaleOf(place),
      };
    }
    case 'copies':
      return CLOTH;
    case 'outline':
      return objectFrame(objects, object.of, depth + 1);
  }
}

/** The picture an object lies on, or is; undefined where it lies on the cloth. */
export function pictureUnder(objects: readonly DesignObject[], id: string | null): string | undefined {
  let at = objects.find((o) => o.id === id);
  for (let steps = 0; at && at.kind !== 'picture' && steps <= objects.length; steps++) {
    const next: string | null = at.kind === 'outline' ? at.of : at.on;
    at = objects.find((o) => o.id === next);
  }
  return at?.kind === 'picture' ? at.id : undefined;
}

/** Whether an object is not sewn: because it or what it lies on is hidden, or because it is only drawn over. */
export function isHidden(objects: readonly DesignObject[], object: DesignObject): boolean {
  if (object.kind === 'picture' && object.sketch) return true;
  let at: DesignObject | undefined = object;
  for (let steps = 0; at && steps <= objects.length; steps++) {
    if (at.hidden) return true;
    const { on }: DesignObject = at;
    at = on === null ? undefined : objects.find((o) => o.id === on);
  }
  return false;
}

/** Area of a whole object in mm²; what lies on a picture is measured against the picture. */
export function wholeMm2Of(objects: readonly DesignObject[], id: string): number {
  const under = pictureUnder(objects, id);
  const picture = objects.find((o) => o.id === under);
  if (picture?.kind === 'picture') {
    const { widthMm, heightMm } = finishedSize(picture.picture);
    return widthMm * heightMm;
  }
  return LOOSE_MM2;
}

/** What lies on the cloth by itself is measured against a hoop of 100 mm. */
const LOOSE_MM2 = 10_000;

/** Edge of an object on the cloth: of a picture its mask or its frame, of a shape its outer paths. */
export function edgeOf(objects: readonly DesignObject[], id: string): Points[] | undefined {
  const object = objects.find((o) => o.id === id);
  if (object?.kind === 'picture') return [frameRing(object.picture)];
  if (object?.kind === 'stitches') {
    const { left, top, width, height } = object.box;
    const { toHoop } = objectFrame(objects, id);
    const corners = [
      toHoop(left, top),
      toHoop(left + width, top),
      toHoop(left + width, top + height),
      toHoop(left, top + height),
    ];
    return [corners.flatMap(({ x, y }) => [x, y])];
  }
  if (object?.kind !== 'shape') return undefined;
  const { toHoop } = objectFrame(objects, id);
  const rings = object.paths
    .filter(({ nodes }) => nodes.length >= 2)
    .map((path) => flattenRing(pathCurve(path, toHoop), 0.02));
  return rings.filter((ring) => ring.length >= 6 && areaWithin([ring]) !== 0);
}

/** Outline of what is used of a picture, in mm on the cloth. */
function frameRing(placement: Placement): Points {
  const { left, top, right, bottom } = placedFrame(placement);
  const midX = (left + right) / 2 - (placement.xMm ?? 0);
  const midY = (top + bottom) / 2 - (placement.yMm ?? 0);
  if (placement.mask) {
    return flattenRing(maskCurve(placement.mask), 0.02).map((v, i) => v - (i % 2 === 0 ? midX : midY));
  }
  const corner = (u: number, v: number): Point => sourceToHoop(placement, u, v);
  return [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)].flatMap(({ x, y }) => [x, y]);
}

/** Whether what is used of a picture reaches beyond the picture itself. */
export function reachesBeyond(placement: Placement): boolean {
  if (!placement.mask && placement.turn % 90 === 0) return false;
  if (!placement.mask) return true;
  const edge = frameRing(placement);
  const outside = (share: number): boolean => share < -BEYOND || share > 1 + BEYOND;
  for (let i = 0; i < edge.length; i += 2) {
    const { u, v } = hoopToSource(placement, edge[i], edge[i + 1]);
    if (outside(u) || outside(v)) return true;
  }
  return false;
}

/** Less of a picture's sides than this is a matter of rounding. */
const BEYOND = 0.002;

/** Curves an object is sketched by: the paths of a shape, the edge of what an outline outlines. */
export function curvesOf(objects: readonly DesignObject[], object: DesignObject): Curve[] {
  if (object.kind === 'shape') {
    const { toHoop } = objectFrame(objects, object.id);
    return object.paths.filter(({ nodes }) => nodes.length >= 2).map((path) => pathCurve(path, toHoop));
  }
  const edge = edgeOf(objects, object.kind === 'outline' ? (object.of ?? '') : object.id) ?? [];
  return edge.map((ring) => curveThrough([...ring, ring[0], ring[1]]));
}

/** Box around curves, by their points and handles. */
export const outlineBox = (curves: readonly Curve[]): Bounds => boundsOf(curves.map(({ points }) => points));
