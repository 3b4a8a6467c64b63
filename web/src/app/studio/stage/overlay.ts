import {
  JUMP,
  maskCurve,
  placeCurve,
  placedFrame,
  svgPath,
  TRIM,
  type Curve,
  type Design,
  type Finding,
  type HoopField,
  type Mask,
  type PictureBox,
  type Placement,
} from '@open-kite/core';
import { DIMMED } from '../../convert/convert-protocol';
import type { Unit } from '../../shared/units';
import type { Compare } from '../studio-state';
import { endsOf } from './piece-ends';
import { rulerStep, toStage, type Camera, type Size } from './camera';

/** Width of the rulers in CSS pixels. */
export const RULER = 20;

/** Place of the lens in mm, its radius in CSS pixels, and the place of the split line. */
export interface Lens {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly split: number;
}

export const EMBER = '#c8481f';
export const INK = '#1f2d2c';
export const PAPER = '#fbf8f1';
export const GLASS = '#2f756e';

type Context = CanvasRenderingContext2D;

/** The whole picture in its light, and how it lies on the cloth. */
export interface PlacedPicture {
  readonly bitmap: CanvasImageSource & { readonly width: number };
  readonly placement: Placement;
}

/**
 * Draws a picture turned and mirrored as it is placed.
 * @param x where the middle of the picture lies on the stage, in CSS pixels; `y` likewise
 */
export function paintPlaced(
  context: Context,
  { bitmap, placement }: PlacedPicture,
  x: number,
  y: number,
  scale: number,
): void {
  const { widthMm, heightMm, turn, mirror } = placement;
  context.save();
  context.translate(x, y);
  context.rotate((turn * Math.PI) / 180);
  context.scale(mirror ? -scale : scale, scale);
  context.imageSmoothingEnabled = bitmap.width > 200;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, -widthMm / 2, -heightMm / 2, widthMm, heightMm);
  context.restore();
}

/** Outline of a mask as a path on the stage. */
export function maskPath(mask: Mask, x: number, y: number, scale: number): Path2D {
  return new Path2D(svgPath(placeCurve(maskCurve(mask), x / scale, y / scale, scale), 2, true));
}

/** Shows the picture in the lens, right of the split line, faded in, or alone. */
export function paintCompare(
  context: Context,
  camera: Camera,
  size: Size,
  compare: Compare,
  lens: Lens,
  fade: number,
  picture: PlacedPicture,
  clothHex: string,
): void {
  if (compare === 'none') return;
  const frame = placedFrame(picture.placement);
  const at = toStage(camera, size, compare === 'split' ? lens.split : lens.x, lens.y);
  const { xMm = 0, yMm = 0 } = picture.placement;
  const middle = toStage(camera, size, xMm - (frame.left + frame.right) / 2, yMm - (frame.top + frame.bottom) / 2);
  context.save();
  context.beginPath();
  if (compare === 'lens') context.arc(at.x, at.y, lens.radius, 0, 2 * Math.PI);
  else if (compare === 'split') context.rect(at.x, 0, size.width, size.height);
  else context.rect(0, 0, size.width, size.height);
  context.clip();
  if (compare === 'fade') context.globalAlpha = fade;
  else {
    context.fillStyle = clothHex;
    context.fillRect(0, 0, size.width, size.height);
  }
  const { mask } = picture.placement;
  if (mask) context.clip(maskPath(mask, middle.x, middle.y, camera.scale));
  paintPlaced(context, picture, middle.x, middle.y, camera.scale);
  context.restore();
  if (compare === 'lens') {
    ring(context, at.x, at.y, lens.radius, 5, INK);
    ring(context, at.x, at.y, lens.radius - 2.5, 2, PAPER);
  } else if (compare === 'split') {
    context.fillStyle = INK;
    context.fillRect(at.x - 1, 0, 2, size.height);
    diamond(context, at.x, size.height / 2, 9, EMBER);
  }
}

/** Covers everything but the colour pointed at. */
export function paintWhere(
  context: Context,
  camera: Camera,
  size: Size,
  where: ImageBitmap,
  box: PictureBox,
  clothHex: string,
): void {
  const corner = toStage(camera, size, box.left, box.top);
  // Stitches reach a little beyond the picture: there the cloth covers them as it does everything else.
  context.save();
  context.beginPath();
  context.rect(0, 0, size.width, size.height);
  context.rect(corner.x, corner.y, box.width * camera.scale, box.height * camera.scale);
  context.clip('evenodd');
  context.globalAlpha = DIMMED / 255;
  context.fillStyle = clothHex;
  context.fillRect(0, 0, size.width, size.height);
  context.restore();
  context.imageSmoothingEnabled = true;
  context.drawImage(where, corner.x, corner.y, box.width * camera.scale, box.height * camera.scale);
}

export function ring(context: Context, x: number, y: number, radius: number, width: number, colour: string): void {
  context.beginPath();
  context.arc(x, y, radius, 0, 2 * Math.PI);
  context.lineWidth = width;
  context.strokeStyle = colour;
  context.stroke();
}

/** The kite's diamond, the one recurring form. */
export function diamond(context: Context, x: number, y: number, radius: number, colour: string, edge = PAPER): void {
  context.beginPath();
  context.moveTo(x, y - radius);
  context.lineTo(x + radius, y);
  context.lineTo(x, y + radius);
  context.lineTo(x - radius, y);
  context.closePath();
  context.fillStyle = colour;
  context.fill();
  context.lineWidth = 2;
  context.strokeStyle = edge;
  context.stroke();
}

const paths = new WeakMap<object, Path2D>();

function pathOf(piece: { readonly outline: readonly Curve[] }): Path2D {
  let path = paths.get(piece);
  if (!path) paths.set(piece, (path = new Path2D(piece.outline.map((curve) => svgPath(curve, 2, true)).join(''))));
  return path;
}

/** Covers everything but some pieces with cloth. */
export function paintSolo(
  context: Context,
  camera: Camera,
  size: Size,
  design: Design,
  shown: ReadonlySet<number>,
): void {
  context.save();
  const all = new Path2D();
  const { scale } = camera;
  const [dx, dy] = [size.width / 2 - camera.x * scale, size.height / 2 - camera.y * scale];
  all.rect(-dx / scale, -dy / scale, size.width / scale, size.height / scale);
  for (const index of shown) if (design.pieces[index]) all.addPath(pathOf(design.pieces[index]));
  context.translate(dx, dy);
  context.scale(scale, scale);
  context.globalAlpha = 0.92;
  context.fillStyle = design.fabric.hex;
  context.fill(all, 'evenodd');
  context.restore();
}

/** Outlines of the piece or thread pointed at, and of the selected pieces. */
export function paintOutlines(
  context: Context,
  camera: Camera,
  size: Size,
  design: Design,
  hovered: number | undefined,
  hoveredThread: number | undefined,
  selected: ReadonlySet<number>,
): void {
  const draw = (index: number, strong: boolean): void => {
    const piece = design.pieces[index];
    if (!piece) return;
    context.save();
    context.translate(size.width / 2 - camera.x * camera.scale, size.height / 2 - camera.y * camera.scale);
    context.scale(camera.scale, camera.scale);
    context.lineJoin = 'round';
    context.lineWidth = (strong ? 5 : 4) / camera.scale;
    context.strokeStyle = PAPER;
    context.stroke(pathOf(piece));
    context.lineWidth = (strong ? 2.4 : 1.6) / camera.scale;
    // States differ by the line as well as by colour.
    context.setLineDash(strong ? [] : [5 / camera.scale, 3 / camera.scale]);
    context.strokeStyle = strong ? EMBER : INK;
    context.stroke(pathOf(piece));
    context.restore();
  };
  if (hoveredThread !== undefined) {
    design.pieces.forEach((piece, i) => piece.thread === hoveredThread && draw(i, false));
  }
  if (hovered !== undefined && !selected.has(hovered)) draw(hovered, false);
  for (const index of selected) draw(index, true);
}

/** Where a selected piece is entered and left, and where the needle is while playing. */
export function paintMarks(
  context: Context,
  camera: Camera,
  size: Size,
  design: Design,
  selected: ReadonlySet<number>,
  row: number | undefined,
): void {
  const { stitches: list } = design;
  for (const index of [...selected].slice(0, 40)) {
    const ends = endsOf(design, index);
    if (!ends) continue;
    const exit = toStage(camera, size, ends.exit.x, ends.exit.y);
    ring(context, exit.x, exit.y, 6, 4, PAPER);
    ring(context, exit.x, exit.y, 6, 2, INK);
    const entry = toStage(camera, size, ends.entry.x, ends.entry.y);
    diamond(context, entry.x, entry.y, 7, EMBER);
  }
  if (row === undefined) return;
  const at = Math.min(list.count - 1, Math.max(0, row - 1));
  if (list.command[at] === JUMP && at > 0) dottedWay(context, camera, size, design, at);
  const needle = toStage(camera, size, list.x[at], list.y[at]);
  if (list.command[at] === TRIM) cutMark(context, needle.x, needle.y);
  context.beginPath();
  context.moveTo(needle.x, needle.y);
  context.lineTo(needle.x + 4, needle.y - 16);
  context.lineTo(needle.x - 4, needle.y - 16);
  context.closePath();
  context.fillStyle = INK;
  context.fill();
  context.lineWidth = 1.5;
  context.strokeStyle = PAPER;
  context.stroke();
}

function dottedWay(context: Context, camera: Camera, size: Size, design: Design, row: number): void {
  const { stitches: list } = design;
  const from = toStage(camera, size, list.x[row - 1], list.y[row - 1]);
  const to = toStage(camera, size, list.x[row], list.y[row]);
  context.save();
  context.setLineDash([1.5, 4]);
  context.lineWidth = 1.5;
  context.strokeStyle = INK;
  context.beginPath();
  context.moveTo(from.x, from.y);
  context.lineTo(to.x, to.y);
  context.stroke();
  context.restore();
}

function cutMark(context: Context, x: number, y: number): void {
  context.lineWidth = 2.5;
  context.strokeStyle = EMBER;
  context.beginPath();
  context.moveTo(x - 5, y + 5);
  context.lineTo(x + 5, y - 5);
  context.stroke();
}

/** Rulers along the left and the upper edge, in the chosen unit, counted from the hoop's centre. */
export function paintRulers(context: Context, camera: Camera, size: Size, unit: Unit): void {
  const perUnit = unit === 'mm' ? 1 : 25.4;
  const step = rulerStep(camera.scale * perUnit);
  const dark = matchMedia('(prefers-color-scheme: dark)').matches;
  const paper = dark ? '#1f2928' : PAPER;
  const ink = dark ? '#a3aca8' : '#5f6866';
  context.save();
  context.fillStyle = paper;
  context.fillRect(0, 0, size.width, RULER);
  context.fillRect(0, 0, RULER, size.height);
  context.strokeStyle = dark ? '#3a4745' : '#d8d0bf';
  context.lineWidth = 1;
  context.strokeRect(-0.5, -0.5, size.width + 1, RULER);
  context.strokeRect(-0.5, -0.5, RULER, size.height + 1);
  context.fillStyle = ink;
  context.strokeStyle = ink;
  context.font = '10px "Instrument Sans Variable", sans-serif';
  const minor = step / 5;
  const label = (value: number): string => String(Number(value.toFixed(2)));
  const along = (length: number, centre: number, draw: (at: number, value: number, major: boolean) => void): void => {
    const first = Math.ceil((centre - length / 2 / camera.scale) / perUnit / minor);
    const last = Math.floor((centre + length / 2 / camera.scale) / perUnit / minor);
    for (let k = first; k <= last; k++) {
      const at = Math.round((k * minor * perUnit - centre) * camera.scale + length / 2) + 0.5;
      if (at > RULER) draw(at, k * minor, k % 5 === 0);
    }
  };
  context.beginPath();
  context.textAlign = 'left';
  along(size.width, camera.x, (x, value, major) => {
    context.moveTo(x, RULER - (major ? 8 : 4));
    context.lineTo(x, RULER);
    if (major) context.fillText(label(value), x + 3, 10);
  });
  along(size.height, camera.y, (y, value, major) => {
    context.moveTo(RULER - (major ? 8 : 4), y);
    context.lineTo(RULER, y);
    if (!major) return;
    context.save();
    context.translate(9, y - 3);
    context.rotate(-Math.PI / 2);
    context.fillText(label(value), 0, 0);
    context.restore();
  });
  context.stroke();
  context.fillStyle = paper;
  context.fillRect(0, 0, RULER - 1, RULER - 1);
  context.restore();
}

/** Marks where something was found: filled where it fails, hollow where it may, half where it is wasteful; the one looked at is ringed. */
export function paintFindings(
  context: Context,
  camera: Camera,
  size: Size,
  findings: readonly Finding[],
  current: Finding | undefined,
): void {
  const place = (finding: Finding): { x: number; y: number } | undefined =>
    finding.at && toStage(camera, size, finding.at.x, finding.at.y);
  for (const finding of findings) {
    const at = place(finding);
    if (!at || finding === current) continue;
    findingMark(context, at.x, at.y, finding.level, 6);
  }
  const at = current && place(current);
  if (!at) return;
  ring(context, at.x, at.y, 15, 4, PAPER);
  ring(context, at.x, at.y, 15, 2, EMBER);
  findingMark(context, at.x, at.y, current.level, 7);
}

function findingMark(context: Context, x: number, y: number, level: Finding['level'], r: number): void {
  const corners = (size: number): void => {
    context.beginPath();
    context.moveTo(x, y - size);
    context.lineTo(x + size, y);
    context.lineTo(x, y + size);
    context.lineTo(x - size, y);
    context.closePath();
  };
  corners(r + 2);
  context.fillStyle = PAPER;
  context.fill();
  corners(r);
  context.strokeStyle = context.fillStyle = level === 'waste' ? GLASS : EMBER;
  context.lineWidth = 2;
  context.stroke();
  if (level === 'advice') return;
  context.save();
  corners(r);
  context.clip();
  context.fillRect(x - r, y - r, level === 'problem' ? 2 * r : r, 2 * r);
  context.restore();
}

/** The frame of a hoop around the field it can sew, and the middle of that. */
export function paintHoop(context: Context, camera: Camera, size: Size, { widthMm, heightMm, round }: HoopField): void {
  const middle = toStage(camera, size, 0, 0);
  const [w, h] = [widthMm * camera.scale, heightMm * camera.scale];
  const field = new Path2D();
  if (round) field.arc(middle.x, middle.y, w / 2, 0, 2 * Math.PI);
  else field.roundRect(middle.x - w / 2, middle.y - h / 2, w, h, Math.min(w, h) * HOOP_CORNER);
  // What lies outside cannot be sewn.
  const outside = new Path2D();
  outside.rect(0, 0, size.width, size.height);
  outside.addPath(field);
  context.save();
  context.fillStyle = 'rgb(31 45 44 / 22%)';
  context.fill(outside, 'evenodd');
  context.lineWidth = 7;
  context.strokeStyle = HOOP_WOOD;
  context.stroke(field);
  context.lineWidth = 1.5;
  context.strokeStyle = INK;
  context.stroke(field);
  context.beginPath();
  context.moveTo(middle.x - 7, middle.y);
  context.lineTo(middle.x + 7, middle.y);
  context.moveTo(middle.x, middle.y - 7);
  context.lineTo(middle.x, middle.y + 7);
  context.stroke();
  context.restore();
}

/** Corners of a hoop are rounded by this share of its shorter side. */
const HOOP_CORNER = 0.06;
const HOOP_WOOD = '#cbb994';
