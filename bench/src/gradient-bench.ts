import {
  ciede2000,
  figuresOf,
  LINEAR,
  linearOf,
  linearToLab,
  mixHex,
  readSvg,
  renderDesign,
  STITCH,
  type Design,
} from '@open-kite/core';
import { flatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import { decodePicture } from '@open-kite/server';
import { heading, line } from './print.js';

const PAIRS: readonly (readonly [string, string])[] = [
  ['#1f4e66', '#5fa3a8'],
  ['#fff0b8', '#e39a2b'],
  ['#c8481f', '#f6f4ee'],
  ['#203040', '#d8c8a0'],
  ['#2f5d50', '#e0b040'],
  ['#5a2a5f', '#e8a0b0'],
];
const SIDE_MM = 40;
const SCALE = 10;
const SIGMA_MM = 1;
/** Edges are left out: beyond them there is cloth. */
const MARGIN_MM = 4;

/** A square filled with a gradient from left to right, or from its middle outwards. */
async function sewn(a: string, b: string, shape: 'linear' | 'radial', layers: 'over' | 'beside'): Promise<Design> {
  const stops = `<stop offset="0" stop-color="${a}"/><stop offset="1" stop-color="${b}"/>`;
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE_MM}mm" height="${SIDE_MM}mm" viewBox="0 0 40 40"><defs>` +
    `<${shape}Gradient id="g">${stops}</${shape}Gradient></defs><path d="M0 0L40 0L40 40L0 40Z" fill="url(#g)"/></svg>`;
  const { raster } = await decodePicture(Buffer.from(svg));
  const base = flatRecipe(raster.width, raster.height, { widthMm: SIDE_MM, heightMm: SIDE_MM });
  const artwork = readSvg(svg);
  const recipe = { ...base, picture: { ...base.picture, dropGround: false } };
  const first = await convertOne({ raster, artwork, pictureKey: `${a} ${b} ${shape}`, recipe, charts: [] });
  if (layers === 'over') return first;
  const [{ gradient: part, areaMm2, anchor }] = first.pieces;
  if (!part) throw new Error('the gradient did not arrive');
  const { gradient } = part;
  const share = (v: number): number => v / SIDE_MM + 0.5;
  const decision = {
    kind: 'gradient' as const,
    at: { hex: a, u: share(anchor.x), v: share(anchor.y), share: areaMm2 / SIDE_MM ** 2 },
    fill: {
      id: 'g',
      shape,
      way: [share(gradient.x1), share(gradient.y1), share(gradient.x2), share(gradient.y2)] as [
        number,
        number,
        number,
        number,
      ],
      stops: [
        { at: 0, paint: { hex: a } },
        { at: 1, paint: { hex: b } },
      ],
      layers,
    },
  };
  const beside = { ...recipe, pieces: { ...recipe.pieces, decisions: [decision] } };
  return convertOne({ raster, artwork, pictureKey: `${a} ${b} ${shape}`, recipe: beside, charts: [] });
}

/** The stitches as flat lines of thread, 0.4 mm wide, in linear light. */
function flatPicture(design: Design): Float32Array {
  const n = SIDE_MM * SCALE;
  const fine = 2;
  const out = new Float32Array(n * n * 3);
  const side = n * fine;
  const canvas = new Int16Array(side * side).fill(-1);
  const { stitches } = design;
  const px = SCALE * fine;
  for (let i = 1; i < stitches.count; i++) {
    if (stitches.command[i] !== STITCH) continue;
    const [x0, y0, x1, y1] = [stitches.x[i - 1], stitches.y[i - 1], stitches.x[i], stitches.y[i]].map(
      (v) => (v + SIDE_MM / 2) * px,
    );
    const length = Math.max(1e-6, Math.hypot(x1 - x0, y1 - y0));
    const half = 0.2 * px;
    for (
      let y = Math.max(0, Math.floor(Math.min(y0, y1) - half));
      y <= Math.min(side - 1, Math.max(y0, y1) + half);
      y++
    ) {
      for (
        let x = Math.max(0, Math.floor(Math.min(x0, x1) - half));
        x <= Math.min(side - 1, Math.max(x0, x1) + half);
        x++
      ) {
        const t = Math.min(1, Math.max(0, ((x + 0.5 - x0) * (x1 - x0) + (y + 0.5 - y0) * (y1 - y0)) / length ** 2));
        if (Math.hypot(x + 0.5 - x0 - (x1 - x0) * t, y + 0.5 - y0 - (y1 - y0) * t) <= half) {
          canvas[y * side + x] = stitches.thread[i];
        }
      }
    }
  }
  const threads = design.threads.map(({ hex }) => linearOf(hex));
  const cloth = linearOf(design.fabric.hex);
  for (let i = 0; i < side * side; i++) {
    const at = (Math.floor(Math.floor(i / side) / fine) * n + Math.floor((i % side) / fine)) * 3;
    const colour = canvas[i] < 0 ? cloth : threads[canvas[i]];
    for (let c = 0; c < 3; c++) out[at + c] += colour[c] / (fine * fine);
  }
  return out;
}

function sewnPicture(design: Design): Float32Array {
  const view = renderDesign(design, SCALE, 'sewn', 0);
  const n = SIDE_MM * SCALE;
  const out = new Float32Array(n * n * 3);
  const [dx, dy] = [Math.round((view.width - n) / 2), Math.round((view.height - n) / 2)];
  for (let y = 0; y < n; y++) {
    for (let x = 0; x < n; x++) {
      const from = ((y + dy) * view.width + x + dx) * 4;
      for (let c = 0; c < 3; c++) out[(y * n + x) * 3 + c] = LINEAR[view.data[from + c] ?? 0];
    }
  }
  return out;
}

function blurred(data: Float32Array): Float32Array {
  const n = SIDE_MM * SCALE;
  const sigma = SIGMA_MM * SCALE;
  const reach = Math.ceil(sigma * 2.5);
  const taps = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)));
  const pass = (from: Float32Array, step: number, across: number): Float32Array => {
    const to = new Float32Array(from.length);
    for (let line = 0; line < n; line++) {
      for (let k = 0; k < n; k++) {
        let weight = 0;
        const at = (line * across + k * step) * 3;
        for (let j = -reach; j <= reach; j++) {
          if (k + j < 0 || k + j >= n) continue;
          const tap = taps[j + reach];
          weight += tap;
          for (let c = 0; c < 3; c++) to[at + c] += from[(line * across + (k + j) * step) * 3 + c] * tap;
        }
        for (let c = 0; c < 3; c++) to[at + c] /= weight;
      }
    }
    return to;
  };
  return pass(pass(data, 1, n), n, 1);
}

/** Place along the gradient of a pixel. */
function placeAt(x: number, y: number, shape: 'linear' | 'radial'): number {
  const n = SIDE_MM * SCALE;
  return shape === 'linear' ? (x + 0.5) / n : Math.min(1, (2 * Math.hypot(x + 0.5 - n / 2, y + 0.5 - n / 2)) / n);
}

/** The best mix of two threads at every pixel, in linear light. */
function bestPicture(a: string, b: string, shape: 'linear' | 'radial'): Float32Array {
  const n = SIDE_MM * SCALE;
  const [p, q] = [linearOf(a), linearOf(b)];
  const best = Array.from({ length: 401 }, (_, i) => {
    const lab = linearToLab(...linearOf(mixHex(a, b, i / 400)));
    const mixes = Array.from({ length: 129 }, (_unused, k) => p.map((v, c) => v + (q[c] - v) * (k / 128)));
    const far = mixes.map(([r, g, blue]) => ciede2000(lab, linearToLab(r, g, blue)));
    return mixes[far.indexOf(Math.min(...far))];
  });
  const out = new Float32Array(n * n * 3);
  for (let i = 0; i < n * n; i++) {
    out.set(best[Math.round(placeAt(i % n, Math.floor(i / n), shape) * 400)], i * 3);
  }
  return out;
}

/** Mean difference of a picture, blurred, from the artwork. */
function difference(picture: Float32Array, a: string, b: string, shape: 'linear' | 'radial'): number {
  const n = SIDE_MM * SCALE;
  const smooth = blurred(picture);
  let [sum, count] = [0, 0];
  const margin = MARGIN_MM * SCALE;
  for (let y = margin; y < n - margin; y += 4) {
    for (let x = margin; x < n - margin; x += 4) {
      const at = (y * n + x) * 3;
      const lab = linearToLab(...linearOf(mixHex(a, b, placeAt(x, y, shape))));
      sum += ciede2000(lab, linearToLab(smooth[at], smooth[at + 1], smooth[at + 2]));
      count++;
    }
  }
  return sum / count;
}

/** Shortest stretch of a row in mm; ties, what leads from row to row and ways back over a row are none. */
function shortestRow({ stitches, pieces }: Design): number {
  let least = Infinity;
  for (let piece = 0; piece < pieces.length; piece++) {
    const along = directionOfRows(stitches, piece);
    let length = 0;
    let wasBack = false;
    let last = 0;
    for (let i = 2; i < stitches.count; i++) {
      const isSewn = stitches.command[i] === STITCH && stitches.piece[i] === piece;
      const [dx, dy] = [stitches.x[i] - stitches.x[i - 1], stitches.y[i] - stitches.y[i - 1]];
      const step = dx * along.x + dy * along.y;
      const isRow = isSewn && Math.abs(dx * along.y - dy * along.x) < 0.05 * Math.abs(step);
      if (isRow && step * last > 0) {
        length += Math.abs(step);
        continue;
      }
      // What turns straight back is a way over the same row; what is shorter than a tie is one.
      const turnsBack = isRow && step * last < 0;
      if (length > TIE_MM && !wasBack && !turnsBack) least = Math.min(least, length);
      wasBack = turnsBack;
      last = isRow ? step : 0;
      length = isRow ? Math.abs(step) : 0;
    }
  }
  return least;
}
const TIE_MM = 0.75;

/** Direction that most of the thread of a piece lies in, all others turned into it. */
function directionOfRows(stitches: Design['stitches'], piece: number): { readonly x: number; readonly y: number } {
  let [x, y] = [0, 0];
  for (let i = 1; i < stitches.count; i++) {
    if (stitches.command[i] !== STITCH || stitches.piece[i] !== piece) continue;
    const [dx, dy] = [stitches.x[i] - stitches.x[i - 1], stitches.y[i] - stitches.y[i - 1]];
    const length = Math.max(1e-9, Math.hypot(dx, dy));
    // Of doubled angles both ways of a row are one.
    x += (dx * dx - dy * dy) / length;
    y += (2 * dx * dy) / length;
  }
  const angle = Math.atan2(y, x) / 2;
  return { x: Math.cos(angle), y: Math.sin(angle) };
}

/** Density gradients: how near they come to the artwork, and what they cost. */
export async function gradientBench(): Promise<void> {
  heading(
    'Density gradients',
    'six pairs of threads on 40 x 40 mm, blurred with sigma 1 mm in linear light; edges of 4 mm left out',
  );
  for (const shape of ['linear', 'radial'] as const) {
    for (const layers of ['over', 'beside'] as const) {
      let [above, worst, lit, per] = [0, 0, 0, 0];
      let shortest = Infinity;
      for (const [a, b] of PAIRS) {
        const design = await sewn(a, b, shape, layers);
        const away = difference(flatPicture(design), a, b, shape);
        const floor = difference(bestPicture(a, b, shape), a, b, shape);
        above += away - floor;
        worst = Math.max(worst, away - floor);
        lit += difference(sewnPicture(design), a, b, shape);
        const figures = figuresOf(design.stitches, design.threads.length);
        per += figures.stitches / ((SIDE_MM * SIDE_MM) / 100);
        shortest = Math.min(shortest, shortestRow(design));
      }
      const n = PAIRS.length;
      line(
        `${shape}, ${layers === 'over' ? 'solid under' : 'one layer'}: above the floor, mean and worst; sewn look; stitches per cm2; shortest run`,
        `${(above / n).toFixed(2)}, ${worst.toFixed(2)}; ${(lit / n).toFixed(2)}; ${(per / n).toFixed(0)}; ${shortest.toFixed(2)} mm`,
        layers === 'over' ? '0.3; 5; 110; 1.2 mm' : '1.3; 5; 110; 1.2 mm',
      );
    }
  }
}
