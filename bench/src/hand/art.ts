import { seededRandom } from '@open-kite/core';

/** A scripted drawing: an SVG file whose units are millimetres where `sizeMm` says so. */
export interface ScriptedArt {
  readonly name: string;
  readonly svg: string;
  /** Width it is made for; undefined where it is sewn at several. */
  readonly sizeMm?: number;
  readonly heightMm?: number;
}

const COLOURS = ['#d24a3a', '#2f7fb5', '#f2b63d', '#3f9b62', '#8a5a3b', '#7b4fa0', '#f4f0e6', '#e88aa2', '#4bb3b0'];
const INK = '#20262c';

type Chance = () => number;

const pick = <T>(list: readonly T[], chance: Chance): T => list[Math.floor(chance() * list.length)];
const between = (a: number, b: number, chance: Chance): number => a + (b - a) * chance();
const n = (v: number): string => String(Number(v.toFixed(3)));

const polygon = (points: readonly (readonly [number, number])[]): string =>
  `M${points.map(([x, y]) => `${n(x)} ${n(y)}`).join('L')}Z`;

function ellipse(x: number, y: number, rx: number, ry: number): string {
  return `M${n(x - rx)} ${n(y)}a${n(rx)} ${n(ry)} 0 1 0 ${n(2 * rx)} 0a${n(rx)} ${n(ry)} 0 1 0 ${n(-2 * rx)} 0Z`;
}

function rounded(x: number, y: number, w: number, h: number, r: number): string {
  const k = Math.min(r, w / 2, h / 2);
  const arc = (dx: number, dy: number): string => `a${n(k)} ${n(k)} 0 0 1 ${n(dx)} ${n(dy)}`;
  return (
    `M${n(x + k)} ${n(y)}h${n(w - 2 * k)}${arc(k, k)}v${n(h - 2 * k)}${arc(-k, k)}` +
    `h${n(2 * k - w)}${arc(-k, -k)}v${n(2 * k - h)}${arc(k, -k)}Z`
  );
}

function star(x: number, y: number, r: number, inner: number, tips: number, turn: number): string {
  return polygon(
    Array.from({ length: tips * 2 }, (_, i) => {
      const a = turn + (i * Math.PI) / tips;
      const far = i % 2 === 0 ? r : r * inner;
      return [x + far * Math.sin(a), y - far * Math.cos(a)] as const;
    }),
  );
}

function blob(x: number, y: number, r: number, chance: Chance): string {
  const count = 5 + Math.floor(chance() * 4);
  const at = Array.from({ length: count }, (_, i) => {
    const a = (i / count) * 2 * Math.PI;
    const far = r * between(0.6, 1.05, chance);
    return [x + far * Math.cos(a), y + far * Math.sin(a)] as const;
  });
  const mid = (i: number): readonly [number, number] => {
    const [a, b] = [at[i % count], at[(i + 1) % count]];
    return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  };
  const [sx, sy] = mid(count - 1);
  const parts = at.map(([px, py], i) => {
    const [ex, ey] = mid(i);
    return `Q${n(px)} ${n(py)} ${n(ex)} ${n(ey)}`;
  });
  return `M${n(sx)} ${n(sy)}${parts.join('')}Z`;
}

function leaf(x: number, y: number, long: number, wide: number, turn: number): string {
  const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
  const at = (along: number, across: number): string =>
    `${n(x + ux * along - uy * across)} ${n(y + uy * along + ux * across)}`;
  const half = long / 2;
  return `M${at(-half, 0)}Q${at(0, wide)} ${at(half, 0)}Q${at(0, -wide)} ${at(-half, 0)}Z`;
}

/** One outline of a thing somebody would draw. */
function thing(x: number, y: number, r: number, chance: Chance): string {
  switch (Math.floor(chance() * 10)) {
    case 0:
      return ellipse(x, y, r, r * between(0.6, 1, chance));
    case 1:
      return rounded(x - r, y - r * 0.7, 2 * r, 1.4 * r, r * between(0, 0.6, chance));
    case 2:
      return star(x, y, r, between(0.4, 0.6, chance), 5 + Math.floor(chance() * 3), chance());
    case 3:
      return blob(x, y, r, chance);
    case 4:
      return leaf(x, y, 2 * r, r * between(0.6, 1.2, chance), chance() * 3);
    case 5:
      return polygon([
        [x, y - r],
        [x + r * 0.95, y + r * 0.8],
        [x - r * 0.95, y + r * 0.8],
      ]);
    case 6: // a shield
      return `M${n(x - r * 0.8)} ${n(y - r)}h${n(1.6 * r)}v${n(r * 0.8)}C${n(x + r * 0.8)} ${n(y + r * 0.5)} ${n(x + r * 0.3)} ${n(y + r)} ${n(x)} ${n(y + r * 1.1)}C${n(x - r * 0.3)} ${n(y + r)} ${n(x - r * 0.8)} ${n(y + r * 0.5)} ${n(x - r * 0.8)} ${n(y - r * 0.2)}Z`;
    case 7: // a bar, lying somehow
      return rounded(x - r, y - r * 0.16, 2 * r, r * 0.32, r * 0.05);
    case 8: // a ring
      return `${ellipse(x, y, r, r)}${ellipse(x, y, r * 0.62, r * 0.62)}`;
    default: // a house
      return polygon([
        [x - r * 0.8, y + r * 0.9],
        [x - r * 0.8, y - r * 0.1],
        [x, y - r],
        [x + r * 0.8, y - r * 0.1],
        [x + r * 0.8, y + r * 0.9],
      ]);
  }
}

/** An icon as icon sets draw them: fills with a stroke of their own colour, all dark lines once more on top. */
export function icon(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 7919 + 11);
  const shapes: { d: string; hex: string }[] = [{ d: thing(36, 36, 27, chance), hex: pick(COLOURS, chance) }];
  const count = 2 + Math.floor(chance() * 5);
  for (let i = 0; i < count; i++) {
    const r = between(4, 14, chance);
    shapes.push({ d: thing(between(18, 54, chance), between(18, 54, chance), r, chance), hex: pick(COLOURS, chance) });
  }
  const width = pick([1.4, 1.7, 2, 2.4], chance);
  const both = chance() < 0.5;
  const colour = shapes.map(({ d, hex }) =>
    both
      ? `<path fill="${hex}" stroke="${hex}" stroke-width="${width}" fill-rule="evenodd" d="${d}"/>`
      : `<path fill="${hex}" fill-rule="evenodd" d="${d}"/><path fill="none" stroke="${hex}" stroke-width="${width}" stroke-linejoin="round" d="${d}"/>`,
  );
  const strokes = Array.from({ length: Math.floor(chance() * 4) }, () => {
    const [x, y] = [between(14, 58, chance), between(14, 58, chance)];
    return `M${n(x)} ${n(y)}q${n(between(-12, 12, chance))} ${n(between(-12, 12, chance))} ${n(between(-20, 20, chance))} ${n(between(-20, 20, chance))}`;
  });
  const lines = [...shapes.map(({ d }) => d), ...strokes].map(
    (d) =>
      `<path fill="none" stroke="${INK}" stroke-width="${width}" stroke-linecap="round" stroke-linejoin="round" d="${d}"/>`,
  );
  return { name: `icon ${seed}`, svg: page(72, 72, [...colour, ...lines]) };
}

/** Flat art: things that overlap on a ground, without strokes. */
export function flatArt(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 6271 + 5);
  const parts = [`<path fill="${pick(COLOURS, chance)}" fill-rule="evenodd" d="${thing(60, 60, 50, chance)}"/>`];
  const count = 5 + Math.floor(chance() * 14);
  for (let i = 0; i < count; i++) {
    const r = between(3, 22, chance);
    const hex = chance() < 0.2 ? INK : pick(COLOURS, chance);
    const d = thing(between(20, 100, chance), between(20, 100, chance), r, chance);
    if (chance() < 0.2) {
      parts.push(`<path fill="none" stroke="${hex}" stroke-width="${n(between(0.8, 4, chance))}" d="${d}"/>`);
    } else parts.push(`<path fill="${hex}" fill-rule="evenodd" d="${d}"/>`);
  }
  return { name: `flat art ${seed}`, svg: page(120, 120, parts) };
}

const page = (w: number, h: number, parts: readonly string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">${parts.join('')}</svg>`;

const turned = (deg: number, x: number, y: number, inner: string): string =>
  `<g transform="rotate(${n(deg)} ${n(x)} ${n(y)})">${inner}</g>`;

const filled = (d: string, hex: string): string => `<path fill="${hex}" fill-rule="evenodd" d="${d}"/>`;

/** A plus sign whose arms are satin. */
export function cross(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 31 + 1);
  const w = between(2, 5.5, chance);
  const d = `M-17 ${n(-w / 2)}H${n(-w / 2)}V-17H${n(w / 2)}V${n(-w / 2)}H17V${n(w / 2)}H${n(w / 2)}V17H${n(-w / 2)}V${n(w / 2)}H-17Z`;
  const inner = `<g transform="translate(20 20)">${filled(d, pick(COLOURS, chance))}</g>`;
  return { name: `cross ${seed}`, svg: page(40, 40, [turned(chance() * 90, 20, 20, inner)]), sizeMm: 40, heightMm: 40 };
}

/** A frame with mitred corners, and a letter-like zigzag inside. */
export function frame(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 37 + 3);
  const w = between(1.6, 4.5, chance);
  const hex = pick(COLOURS, chance);
  const zig = `M10 28L16 12L20 24L24 12L30 28`;
  return {
    name: `frame ${seed}`,
    svg: page(40, 40, [
      `<rect x="4" y="4" width="32" height="32" fill="none" stroke="${hex}" stroke-width="${n(w)}"/>`,
      `<path d="${zig}" fill="none" stroke="${hex}" stroke-width="${n(w * 0.7)}" stroke-linejoin="miter"/>`,
    ]),
    sizeMm: 40,
    heightMm: 40,
  };
}

/** A back with teeth. */
export function comb(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 41 + 7);
  const w = between(1.4, 3, chance);
  const gap = between(1.2, 2.5, chance);
  const teeth = Math.floor(34 / (w + gap));
  const parts = Array.from({ length: teeth }, (_, i) => `M${n(4 + i * (w + gap))} 8h${n(w)}v20h${n(-w)}Z`);
  const d = `M4 6h${n((teeth - 1) * (w + gap) + w)}v${n(w)}h${n(-(teeth - 1) * (w + gap) - w)}Z`;
  const hex = pick(COLOURS, chance);
  return {
    name: `comb ${seed}`,
    svg: page(
      44,
      36,
      [d, ...parts].map((p) => filled(p, hex)),
    ),
    sizeMm: 44,
    heightMm: 36,
  };
}

/** Flags on poles, a box with a lid, a shield: shapes that are no columns. */
export function flags(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 43 + 9);
  const hex = pick(COLOURS, chance);
  const r = between(4, 9, chance);
  const pole = between(1, 1.8, chance);
  const flag = `M6 4h${n(pole)}l${n(r)} ${n(r * 0.4)}l${n(-r)} ${n(r * 0.4)}v16h${n(-pole)}Z`;
  const box = `M22 10h2v-2h4v2h2v12h-8Z`;
  const shield = thing(46, 14, between(3, 5, chance), seededRandom(77));
  const shieldPath = `M42 8h8v5c0 4 -2.4 6 -4 7c-1.6 -1 -4 -3 -4 -7Z`;
  return {
    name: `flags ${seed}`,
    svg: page(
      60,
      30,
      [flag, box, chance() < 0.5 ? shield : shieldPath].map((d) => filled(d, hex)),
    ),
    sizeMm: 60,
    heightMm: 30,
  };
}

/** Fields of a board that touch at their corners. */
export function chequers(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 47 + 13);
  const cell = between(2.5, 6, chance);
  const [a, b] = [COLOURS[seed % 6], COLOURS[(seed + 1) % 6]];
  const parts: string[] = [];
  for (let y = 0; y < 6; y++) {
    for (let x = 0; x < 6; x++) {
      const d = `M${n(3 + x * cell)} ${n(3 + y * cell)}h${n(cell)}v${n(cell)}h${n(-cell)}Z`;
      parts.push(filled(d, (x + y) % 2 === 0 ? a : b));
    }
  }
  const size = 6 * cell + 6;
  const inner = parts.join('');
  return {
    name: `chequers ${seed}`,
    svg: page(size, size, [seed % 3 === 2 ? turned(chance() * 8, size / 2, size / 2, inner) : inner]),
    sizeMm: size,
    heightMm: size,
  };
}

export const BAR_WIDTHS = [2, 3, 4, 5, 6, 7, 8, 10, 12];

/** Bars of 2 to 12 mm, all turned alike. */
export function bars(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 53 + 17);
  const deg = seed % 4 === 0 ? 0 : between(-80, 80, chance);
  let x = 30;
  const parts = BAR_WIDTHS.map((w) => {
    const d = `M${n(x)} 30h${n(w)}v28h${n(-w)}Z`;
    x += w + 5;
    return filled(d, COLOURS[0]);
  });
  return { name: `bars ${seed}`, svg: page(160, 90, [turned(deg, 80, 45, parts.join(''))]), sizeMm: 160, heightMm: 90 };
}

/** Leaves, dots of 2 to 7 mm, a crowd of small parts. */
export function crowd(seed: number): ScriptedArt {
  const chance = seededRandom(seed * 59 + 19);
  const parts: string[] = [];
  for (let i = 0; i < 6; i++) parts.push(filled(ellipse(6 + i * 9, 6, 1 + i * 0.5, 1 + i * 0.5), COLOURS[1]));
  for (let i = 0; i < 6; i++) {
    parts.push(filled(leaf(7 + i * 9, 18, 8, between(1, 5, chance), chance() * 3), COLOURS[3]));
  }
  for (let i = 0; i < 60; i++) {
    const d = thing(between(5, 55, chance), between(28, 55, chance), between(0.6, 2.2, chance), chance);
    parts.push(filled(d, pick(COLOURS.slice(0, 6), chance)));
  }
  return { name: `crowd ${seed}`, svg: page(60, 60, parts), sizeMm: 60, heightMm: 60 };
}

const FACES = ['sans-serif', 'serif', 'monospace'];
const WORDS = [
  'HARBOUR',
  'Lantern',
  'Kite fair',
  'SKIPPER',
  'Regatta',
  'WINDWARD',
  'bakery',
  'Quayside',
  'MOORINGS',
  'Foxglove',
];

/** A word whose capitals are so high, in one of the faces a machine has. */
export function word(seed: number, heightMm: number): ScriptedArt & { readonly letters: number } {
  const text = WORDS[seed % WORDS.length];
  const face = FACES[Math.floor(seed / WORDS.length) % FACES.length];
  const bold = seed % 2 === 0 ? ' font-weight="bold"' : '';
  const size = heightMm / 0.72;
  const width = text.length * size * 0.95 + 8;
  const height = size * 1.6;
  return {
    name: `${text}, ${face}`,
    svg: page(width, height, [
      `<text x="4" y="${n(size * 1.15)}" font-family="${face}"${bold} font-size="${n(size)}" fill="${COLOURS[1]}">${text}</text>`,
    ]),
    sizeMm: width,
    heightMm: height,
    letters: text.replace(' ', '').length,
  };
}
