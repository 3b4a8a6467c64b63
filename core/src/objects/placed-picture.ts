import { mapPoint, type Matrix } from '../artwork/matrix.js';
import { finishedSize, sourceToHoop } from '../picture/frame.js';
import type { Mask, MaskNode } from '../picture/mask.js';
import { LIMITS } from '../settings/limits.js';
import type { PicturePlace } from './design-object.js';

const round = (value: number): number => Math.round(value * 1000) / 1000;
/** A turn in degrees from -180 to 180. */
const asTurn = (degrees: number): number => round(degrees - 360 * Math.round(degrees / 360));
const degreesOf = (x: number, y: number): number => (Math.atan2(y, x) * 180) / Math.PI;

/**
 * A picture under a map of the cloth. It keeps its right angles: what the map slants is left out.
 * @returns undefined where it would be smaller or larger than pictures may be
 */
export function placedPicture(place: PicturePlace, by: Matrix): PicturePlace | undefined {
  const o = sourceToHoop(place, 0.5, 0.5);
  const right = sourceToHoop(place, 1, 0.5);
  const below = sourceToHoop(place, 0.5, 1);
  // Half sides of the picture as they lie, and under the map.
  const [rx, ry] = linear(by, right.x - o.x, right.y - o.y);
  const [bx, by_] = linear(by, below.x - o.x, below.y - o.y);
  const widthMm = 2 * Math.sqrt(rx * rx + ry * ry);
  const turned = rx * by_ - ry * bx;
  const heightMm = (4 * Math.abs(turned)) / Math.max(1e-9, widthMm);
  const mirror = turned < 0;
  const turn = asTurn(mirror ? degreesOf(-rx, -ry) : degreesOf(rx, ry));
  const flipped = mirror !== place.mirror;
  const scale = Math.sqrt((widthMm * heightMm) / (place.widthMm * place.heightMm));
  const mask = place.mask && placedMask(place.mask, by, flipped, flipped ? 0 : turn - place.turn, scale);
  const made = { ...place, widthMm: round(widthMm), heightMm: round(heightMm), turn, mirror, mask, xMm: 0, yMm: 0 };
  const size = finishedSize(made);
  const fits = (side: number, [least, most]: readonly [number, number]): boolean => side >= least && side <= most + 0.1;
  if (!fits(size.widthMm, LIMITS.widthMm) || !fits(size.heightMm, LIMITS.heightMm)) return undefined;
  const middle = sourceToHoop(made, 0.5, 0.5);
  const [x, y] = mapPoint(by, o.x, o.y);
  const [least, most] = LIMITS.placeMm;
  const within = (mm: number): number => round(Math.min(most, Math.max(least, mm)));
  return { ...made, xMm: within(x - middle.x), yMm: within(y - middle.y) };
}

const linear = ({ a, b, c, d }: Matrix, x: number, y: number): [number, number] => [a * x + c * y, b * x + d * y];

/** A mask lies around the middle of its picture, in the directions of the cloth. */
function placedMask(mask: Mask, by: Matrix, flipped: boolean, turnedBy: number, scale: number): Mask {
  const [x, y] = linear(by, mask.x, mask.y);
  const straight = by.b === 0 && by.c === 0;
  return {
    ...mask,
    x: round(x),
    y: round(y),
    widthMm: round(mask.widthMm * (straight ? Math.abs(by.a) : scale)),
    heightMm: round(mask.heightMm * (straight ? Math.abs(by.d) : scale)),
    turn: asTurn(flipped ? mirroredTurn(mask.turn, by) : mask.turn + turnedBy),
    ...(mask.nodes && flipped ? { nodes: mask.nodes.map(mirroredNode) } : {}),
  };
}

/** Turn of a mask whose left and right are exchanged. */
function mirroredTurn(turn: number, by: Matrix): number {
  const [x, y] = linear(by, -Math.cos((turn * Math.PI) / 180), -Math.sin((turn * Math.PI) / 180));
  return degreesOf(x, y);
}

const mirroredNode = ([x, y, inX, inY, outX, outY]: MaskNode): MaskNode => [-x, y, -inX, inY, -outX, outY];
