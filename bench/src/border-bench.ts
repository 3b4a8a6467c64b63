import {
  convert,
  emptyRecipe,
  newLetters,
  newOutline,
  newShape,
  parseRecipe,
  ringsOf,
  segmentsOf,
  type Design,
  type DesignObject,
  type OutlineObject,
  type Points,
} from '@open-kite/core';
import { crossingRungs, seededRandom } from '@open-kite/core/testing';
import { painted } from './hand/measure.js';
import { heading, line } from './print.js';

const PER_MM = 12;
const STYLES = ['mitre', 'round', 'point'] as const;

/** Something a border goes around: its edge, and the corners of it that are drawn as such. */
interface Bordered {
  readonly name: string;
  readonly object: DesignObject;
  readonly corners: readonly { readonly x: number; readonly y: number }[];
}

const polygon = (name: string, points: readonly (readonly [number, number])[]): Bordered => ({
  name,
  object: newShape('a', null, [{ closed: true, nodes: points.map(([x, y]) => [x, y, 0, 0, 0, 0] as const) }] as never, {
    hex: '#204060',
  }),
  corners: points.map(([x, y]) => ({ x, y })),
});

/** A closed curve through points, smooth where it is asked for. */
function curved(name: string, count: number, radius: (angle: number) => readonly [number, number]): Bordered {
  const points = Array.from({ length: count }, (_, i) => radius((2 * Math.PI * i) / count));
  return { ...polygon(name, points), corners: [] };
}

function scripted(count: number, seed: number): Bordered[] {
  const random = seededRandom(seed);
  const between = (low: number, high: number): number => low + (high - low) * random();
  return Array.from({ length: count }, (_, k): Bordered => {
    const size = between(14, 40);
    switch (k % 5) {
      case 0: {
        const [tips, inner] = [4 + Math.floor(between(0, 5)), between(0.45, 0.7)];
        return polygon(
          `star of ${tips}`,
          Array.from({ length: tips * 2 }, (_, i) => {
            const [angle, r] = [(Math.PI * i) / tips + 0.1 * k, i % 2 === 0 ? size : size * inner];
            return [r * Math.sin(angle), -r * Math.cos(angle)] as const;
          }),
        );
      }
      case 1: {
        // A straight top, and sides that come together in a curve.
        const sides = Array.from({ length: 13 }, (_, i) => {
          const t = i / 12;
          return [size * (1 - t * t), size * (1.35 * t + 0.05)] as const;
        });
        const left = sides.slice(0, -1).reverse();
        const points = [[-size, -size * 0.5], [size, -size * 0.5], ...sides, ...left.map(([x, y]) => [-x, y])];
        const shield = polygon('shield', points as unknown as readonly (readonly [number, number])[]);
        return { ...shield, corners: shield.corners.slice(0, 2) };
      }
      case 2: {
        const character = 'ABDEHKORSTZ'[Math.floor(between(0, 11))] ?? 'A';
        const object = newLetters('a', { text: character, heightMm: Math.max(24, size) }, { hex: '#204060' });
        return { name: `letter ${character}`, object, corners: [] };
      }
      case 3:
        return curved('ring', 72, (a) => [size * Math.cos(a), size * between(0.7, 0.7) * Math.sin(a)]);
      default: {
        const [w, h] = [size, size * between(0.5, 1)];
        return polygon('box', [
          [-w, -h],
          [w, -h],
          [w, h],
          [-w, h],
        ]);
      }
    }
  });
}

interface BorderFigures {
  readonly bare: number;
  readonly samples: number;
  readonly crossing: number;
  readonly corners: number;
  readonly asAsked: number;
}

async function bordered(shape: Bordered, widthMm: number, style: (typeof STYLES)[number]): Promise<BorderFigures> {
  const outline: OutlineObject = {
    ...newOutline('o', 'a', { hex: '#a03020' }),
    closeMm: 0,
    widthMm,
    corners: style,
  };
  const recipe = parseRecipe({ ...emptyRecipe(), objects: [{ ...shape.object, hidden: true }, outline] });
  const design = await convert({ pictures: {}, recipe, charts: [] });
  const [left, top, width, height] = windowOf(design);
  const covers = painted(segmentsOf(design.stitches), left, top, width, height);
  const isCovered = (x: number, y: number): boolean => {
    const [u, v] = [Math.floor((x - left) * PER_MM), Math.floor((y - top) * PER_MM)];
    for (let dv = -1; dv <= 1; dv++) {
      for (let du = -1; du <= 1; du++) if ((covers[(v + dv) * width + u + du] ?? 0) > 0) return true;
    }
    return false;
  };
  let [bare, samples] = [0, 0];
  for (const run of edgesOf(shape, design)) {
    for (let i = 0; i + 3 < run.length; i += 2) {
      const [ax, ay, bx, by] = run.slice(i, i + 4) as [number, number, number, number];
      const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 0.25));
      for (let s = 0; s < steps; s++) {
        samples++;
        if (!isCovered(ax + ((bx - ax) * s) / steps, ay + ((by - ay) * s) / steps)) bare++;
      }
    }
  }
  const crossing = design.pieces.reduce(
    (sum, { columns }) => sum + columns.reduce((all, { rungs }) => all + crossingRungs(rungs), 0),
    0,
  );
  const told = cornersAsAsked(shape, widthMm, style, isCovered);
  return { bare, samples, crossing, corners: told.length, asAsked: told.filter(Boolean).length };
}

/** For each corner that sticks out and where it can be seen, whether it is covered as its style has it. */
function cornersAsAsked(
  { corners }: Bordered,
  widthMm: number,
  style: (typeof STYLES)[number],
  isCovered: (x: number, y: number) => boolean,
): boolean[] {
  const area = corners.reduce((sum, { x, y }, i) => {
    const next = corners[(i + 1) % corners.length] ?? { x, y };
    return sum + x * next.y - next.x * y;
  }, 0);
  return corners.flatMap((corner, i): boolean[] => {
    const before = corners.at(i - 1);
    const after = corners[(i + 1) % corners.length];
    if (!before || !after || corners.length < 3) return [];
    const unit = (to: { x: number; y: number }): [number, number] => {
      const length = Math.hypot(to.x - corner.x, to.y - corner.y);
      return [(to.x - corner.x) / length, (to.y - corner.y) / length];
    };
    const [[ax, ay], [bx, by]] = [unit(before), unit(after)];
    const turns = (ax * by - ay * bx) * Math.sign(area);
    const half = Math.acos(Math.max(-1, Math.min(1, ax * bx + ay * by))) / 2;
    const long = Math.hypot(ax + bx, ay + by);
    // Corners that go in, and such as are nearly straight, look alike in every style; needles are cut off short.
    if (turns > 0 || half > 1.05 || half < 0.4 || long < 1e-6) return [];
    const tip = widthMm / 2 / Math.sin(half);
    const at = (far: number): boolean =>
      isCovered(corner.x - ((ax + bx) / long) * far, corner.y - ((ay + by) / long) * far);
    const between = (widthMm / 2 + tip) / 2;
    // Where the tip hardly reaches beyond the round, thread is too thick to tell them apart.
    if (tip - widthMm / 2 < 0.9) return at(widthMm / 2 - 0.4) ? [true] : [false];
    return [style === 'round' ? at(widthMm / 2 - 0.4) && !at(tip - 0.25) : at(between)];
  });
}

/** The edge the border goes along. */
function edgesOf({ object }: Bordered, design: Design): Points[] {
  if (object.kind === 'shape') {
    return object.paths.flatMap(({ nodes }) => {
      const run = nodes.flatMap(([x, y]) => [x, y]);
      return [[...run, run[0] ?? 0, run[1] ?? 0]];
    });
  }
  // Of a letter: the middles of the columns themselves.
  return design.pieces.flatMap(({ columns }) => columns.map(({ spine }) => spine));
}

function windowOf(design: Design): [left: number, top: number, width: number, height: number] {
  const rings = design.pieces.flatMap((piece) => ringsOf(piece));
  const xs = rings.flatMap((ring) => ring.filter((_, i) => i % 2 === 0));
  const ys = rings.flatMap((ring) => ring.filter((_, i) => i % 2 === 1));
  const [left, top] = [Math.min(...xs) - 3, Math.min(...ys) - 3];
  return [left, top, Math.ceil((Math.max(...xs) + 3 - left) * PER_MM), Math.ceil((Math.max(...ys) + 3 - top) * PER_MM)];
}

/** Satin borders of scripted shapes. Arguments: how many, and the seed. */
export async function borderBench(): Promise<void> {
  const [count, seed] = [Number(process.argv[3] ?? 60), Number(process.argv[4] ?? 8400)];
  heading(
    'Borders',
    `satin around ${count} scripted stars, shields, letters, rings and boxes, 1.5 to 5 mm, seed ${seed}`,
  );
  const random = seededRandom(seed + 1);
  const all = { bare: 0, samples: 0, crossing: 0, corners: 0, asAsked: 0 };
  const worst: string[] = [];
  for (const [k, shape] of scripted(count, seed).entries()) {
    const widthMm = Math.round((1.5 + 3.5 * random()) * 10) / 10;
    const style = STYLES[k % STYLES.length] ?? 'mitre';
    const one = await bordered(shape, widthMm, style);
    for (const field of ['bare', 'samples', 'crossing', 'corners', 'asAsked'] as const) all[field] += one[field];
    if (one.bare > 0 || one.crossing > 0 || one.asAsked < one.corners)
      worst.push(
        `${k}: ${shape.name}, ${widthMm} mm, ${style}: bare ${one.bare} of ${one.samples}, crossing ${one.crossing}, corners ${one.asAsked} of ${one.corners}`,
      );
  }
  line('bare along the edge, places a quarter of a millimetre apart', `${all.bare} of ${all.samples}`, '0');
  line('rungs that cross', String(all.crossing), '0');
  line('corners as asked', `${all.asAsked} of ${all.corners}`, 'all');
  for (const each of worst.slice(0, 20)) console.log(`  ${each}`);
}
