import { histogram, emptyShades, placeOf, setShade, type Shades } from '../colour/histogram.js';
import { reduce } from '../colour/reduce.js';
import { isSame, LINEAR, toByte, toHex, type Rgb } from '../colour/srgb.js';
import type { Character } from '../colour/suggest.js';
import { toEnd } from '../geometry/pauses.js';
import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { regroup, type Anchor, type ColourDecision } from './colour-decisions.js';
import { dropSpecks } from './components.js';
import { isNear, labelFlatArt, type FlatLabels } from './edge-shades.js';
import { clearGround, separateGround } from './ground.js';
import { commonestOf, meanOf, measureShades, type ColourGroup, type Shade, type ShadeMap } from './shades.js';
import type { GroundSettings } from './ground-settings.js';

/** What the user calls one colour, and what is known of it. */
export interface ColourInfo {
  /** Where decisions on it hold on to. */
  readonly anchor: Anchor;
  /** Its shades, most common first, each with its place and its share of the picture. */
  readonly shades: readonly ShadeInfo[];
  readonly pinned: boolean;
}

export interface ShadeInfo {
  readonly hex: string;
  readonly anchor: Anchor;
  readonly pixels: number;
  /** Index in the shade map. */
  readonly index: number;
}

/** Every pixel given to a colour. */
export interface LabelMap {
  readonly width: number;
  readonly height: number;
  /** 0 is bare, 1.. are entries of `palette`. */
  readonly labels: Uint8Array;
  readonly palette: readonly Rgb[];
  /** Label of the plain ground, 0 where there is none. */
  readonly ground: number;
  /** Whether edges carry the smoothing of flat art, so that they can be placed between pixels. */
  readonly smoothEdges: boolean;
  /** What is known of each entry of the palette. */
  readonly infos: readonly ColourInfo[];
  /** Shade of every pixel, counted from 1. */
  readonly shadeOf: Uint16Array;
  /** Shades large enough to be a colour each: of flat art, its true number of colours. */
  readonly shades: number;
  /** Decisions that found no colour, by their place in the list. */
  readonly lost: readonly number[];
}

export interface LabelSettings {
  /** Colours at most. */
  readonly count: number | 'auto';
  /** Areas under this many pixels join a neighbour. */
  readonly smallestSpot: number;
  readonly ground: GroundSettings;
  /** Decisions that regroup colours; others are ignored. */
  readonly decisions: readonly ColourDecision[];
  /** Colours that must be kept, as the picture shows them. */
  readonly pinned: readonly Rgb[];
  /** Gives the place of a pixel on the source picture, as shares of its sides. */
  readonly toSource: (x: number, y: number) => { u: number; v: number };
  /** Gives the pixel at a place of the source picture. */
  readonly toPixel: (u: number, v: number) => { x: number; y: number };
  /** The picture before its light was changed. */
  readonly source: Raster;
  /** What of the picture lies inside its mask, 0 to 255 a pixel. */
  readonly mask?: Uint8Array;
  /** Labels of flat art, where they are known: they do not depend on the number of colours. */
  readonly flat?: FlatLabels;
  /** The plain ground stays bare: it is no colour, so no other is put together with it, and it is not counted. */
  readonly groundBare?: boolean;
}

/** Settings for a picture nobody has said anything about. */
export function plainLabelSettings(raster: Raster, count: number | 'auto', smallestSpot: number): LabelSettings {
  return {
    count,
    smallestSpot,
    ground: { tolerance: 3, everywhere: false },
    decisions: [],
    pinned: [],
    source: raster,
    toSource: (x, y) => ({ u: (x + 0.5) / raster.width, v: (y + 0.5) / raster.height }),
    toPixel: (u, v) => ({ x: Math.floor(u * raster.width), y: Math.floor(v * raster.height) }),
  };
}

/** Gives every pixel one of a few colours, without edge shades and without specks, and finds a plain ground. */
export function* labelSteps(
  raster: Raster,
  character: Character,
  settings: LabelSettings,
): Generator<number, LabelMap> {
  const { width, height } = raster;
  const { ground, mask } = settings;
  const art = character.flat ? (settings.flat ?? labelFlatArt(raster, character.noisy, settings.pinned)) : undefined;
  // The ground of a photograph is not one colour: it is found pixel by pixel before the colours are.
  const cleared: Cleared | undefined = art ? bareGround(art, raster, settings) : clearGround(raster, ground, mask);
  const picture = cleared?.picture ?? raster;
  const map = art
    ? shadesOfFlatArt(picture, cleared?.art ?? art, settings, character.noisy, cleared && art.labels)
    : shadesOfPhoto(picture, settings, character.colours);
  yield 0.4;
  const shadeAt = (anchor: Anchor): number => {
    const { x, y } = settings.toPixel(anchor.u, anchor.v);
    return x >= 0 && y >= 0 && x < width && y < height ? map.of[y * width + x] - 1 : -1;
  };
  const { groups, lost } = regroup(map, settings.decisions, { shadeAt });
  const labelOf = new Uint8Array(map.shades.length + 1);
  groups.forEach((group, g) => group.shades.forEach((s) => (labelOf[s + 1] = g + 1)));
  let labels = new Uint8Array(map.of.length);
  for (let i = 0; i < labels.length; i++) labels[i] = labelOf[map.of[i]];
  for (let round = 0; !character.flat && round < 2; round++) {
    labels = majority(labels, width, height);
    yield 0.6 + round * 0.1;
  }
  if (cleared) for (let i = 0; i < labels.length; i++) if (cleared.ground[i]) labels[i] = groups.length + 1;
  const speck = Math.max(1, Math.min(12, Math.round(width * height * 2.3e-5)));
  dropSpecks(labels, width, height, Math.max(speck, settings.smallestSpot));
  yield 0.9;
  const palette = groups.map((group) => group.colour);
  const found = cleared
    ? { palette: [...palette, cleared.colour], ground: palette.length + 1 }
    : separateGround(labels, width, height, palette, ground, mask);
  // A shade that was taken out with the ground is a shade all the same.
  const groundOnly =
    cleared?.art && onlyInGround(cleared.art.labels, art?.labels, cleared.art.palette.length).some(Boolean) ? 1 : 0;
  const infos = groups.map((group): ColourInfo => describe(group, map, settings));
  const twin = palette.findIndex((c, i) => i + 1 !== found.ground && isSame(c, found.palette[found.ground - 1]));
  if (found.palette.length > infos.length)
    infos.push(twin >= 0 ? infos[twin] : groundInfo(found.palette[found.ground - 1]));
  return {
    width,
    height,
    labels,
    palette: found.palette,
    ground: found.ground,
    smoothEdges: character.flat,
    infos,
    shadeOf: map.of,
    shades: map.shades.filter((shade) => shade.pixels >= Math.max(speck, settings.smallestSpot)).length + groundOnly,
    lost,
  };
}

/** The same at once. */
export const labelPicture = (raster: Raster, character: Character, settings: LabelSettings): LabelMap =>
  toEnd(labelSteps(raster, character, settings));

const groundInfo = (colour: Rgb): ColourInfo => ({
  anchor: { hex: toHex(colour), u: 0, v: 0 },
  shades: [],
  pinned: false,
});

function describe(group: ColourGroup, map: ShadeMap, settings: LabelSettings): ColourInfo {
  const anchorOf = (shade: number, colour: Rgb): Anchor => {
    const { u, v } = settings.toSource(map.shades[shade].x, map.shades[shade].y);
    return { hex: toHex(colour), u: Number(u.toFixed(5)), v: Number(v.toFixed(5)) };
  };
  const byArea = [...group.shades].sort((a, b) => map.shades[b].pixels - map.shades[a].pixels || a - b);
  return {
    anchor: anchorOf(byArea[0], group.source),
    pinned: group.pinned,
    shades: byArea.map((index) => ({
      hex: toHex(map.shades[index].colour),
      anchor: anchorOf(index, map.shades[index].source),
      pixels: map.shades[index].pixels,
      index,
    })),
  };
}

/** A ground that is found before the colours are: its pixels are no part of any. */
interface Cleared {
  readonly picture: Raster;
  readonly ground: Uint8Array;
  readonly colour: Rgb;
  /** Labels of flat art without it. */
  readonly art?: FlatLabels;
}

/** Takes a bare ground out of flat art before its colours are put together; needed only where some will be. */
function bareGround(art: FlatLabels, raster: Raster, settings: LabelSettings): Cleared | undefined {
  const { count, groundBare, ground, mask } = settings;
  if (!groundBare || count === 'auto' || art.palette.length <= count) return undefined;
  const { width, height } = raster;
  const labels = art.labels.slice();
  const found = separateGround(labels, width, height, art.palette, ground, mask);
  if (found.ground === 0) return undefined;
  const colour = found.palette[found.ground - 1];
  const outside = new Uint8Array(labels.length);
  for (let i = 0; i < labels.length; i++) outside[i] = labels[i] === found.ground ? 1 : 0;
  return {
    picture: raster,
    ground: outside,
    colour,
    art: { ...art, labels: art.labels.map((label, i) => (outside[i] ? 0 : label)) },
  };
}

/** Shades of flat art are its colours; more than `count` of them are put together, the commonest of a group stays. */
function shadesOfFlatArt(
  raster: Raster,
  { labels, palette }: FlatLabels,
  settings: LabelSettings,
  noisy: boolean,
  whole?: Uint8Array,
): ShadeMap {
  const of = new Uint16Array(labels);
  const shades = measureShades(raster, settings.source, of, palette, true);
  const pins = settings.pinned.map((pin) => palette.findIndex((c) => isNear(c, pin, noisy)));
  const absent = onlyInGround(labels, whole, palette.length);
  const group = limitColours(palette, shades, settings.count, pins, absent);
  return {
    width: raster.width,
    height: raster.height,
    of,
    shades,
    group,
    pinned: new Set(pins.map((s) => group[s])),
    // A pinned shade gives its group the colour, however rare it is.
    colours: groupColours(group, shades, pins),
    describe: (chosen) => commonestOf(shades, chosen),
  };
}

/** Which shades of flat art are nowhere but in the ground that was taken out of it. */
function onlyInGround(labels: Uint8Array, whole: Uint8Array | undefined, count: number): boolean[] {
  const inside = new Uint8Array(count + 1);
  const anywhere = new Uint8Array(count + 1);
  for (let i = 0; whole && i < whole.length; i++) {
    anywhere[whole[i]] = 1;
    inside[labels[i]] = 1;
  }
  return Array.from({ length: count }, (_, s) => anywhere[s + 1] === 1 && inside[s + 1] === 0);
}

function groupColours(group: readonly number[], shades: readonly Shade[], pins: readonly number[]): Rgb[] {
  const count = Math.max(0, ...group.map((g) => g + 1));
  return Array.from({ length: count }, (_, g) => {
    const members = group.flatMap((of, s) => (of === g ? [s] : []));
    const pin = pins.find((s) => group[s] === g);
    return pin === undefined ? commonestOf(shades, members).colour : shades[pin].colour;
  });
}

/** Gives every shade of flat art a group, at most `count` of them, in the order of their commonest shades. */
function limitColours(
  palette: readonly Rgb[],
  shades: readonly Shade[],
  count: number | 'auto',
  pins: readonly number[],
  absent: readonly boolean[],
): number[] {
  const present = palette.flatMap((_, i) => (absent[i] ? [] : [i]));
  if (count === 'auto' || present.length === 0 || palette.length <= count) return palette.map((_, i) => i);
  const weighted = emptyShades(present.length);
  present.forEach((i, k) => {
    const c = palette[i];
    setShade(weighted, k, shades[i].pixels + 1, LINEAR[c.r], LINEAR[c.g], LINEAR[c.b]);
  });
  const placeOfShade = (s: number): number[] => {
    const k = present.indexOf(s);
    return k < 0 ? [] : [...weighted.place.subarray(k * 3, k * 3 + 3)];
  };
  const fixed = [...new Set(pins)].flatMap(placeOfShade);
  const { assigned: groups } = reduce(weighted, count, fixed);
  // A shade that is nowhere but in the bare ground goes with any: it colours nothing.
  const assigned = palette.map((_, i) => (absent[i] ? groups[0] : groups[present.indexOf(i)]));
  const keeper = new Map<number, number>();
  present.forEach((i) => {
    const best = keeper.get(assigned[i]);
    if (best === undefined || shades[i].pixels > shades[best].pixels) keeper.set(assigned[i], i);
  });
  const kept = [...keeper.values()].sort((a, b) => a - b);
  return palette.map((_, i) => kept.indexOf(keeper.get(assigned[i]) as number));
}

/** Shades a colour of a photograph is divided into, for the user to move. */
const PHOTO_SHADES = 5;

/** Shades of a photograph: each reduced colour divided once more. */
function shadesOfPhoto(raster: Raster, settings: LabelSettings, suggested: number): ShadeMap {
  const { width, height, data } = raster;
  const cells = histogram(raster);
  const fixed = new Float32Array(settings.pinned.length * 3);
  settings.pinned.forEach((c, i) => placeOf(LINEAR[c.r], LINEAR[c.g], LINEAR[c.b], fixed, i * 3));
  const count = settings.count === 'auto' ? Math.max(suggested, settings.pinned.length) : settings.count;
  const { assigned, count: k } = reduce(cells, count, fixed);
  const group: number[] = [];
  const colours: Rgb[] = [];
  const groupColour: Rgb[] = [];
  const shadeOfCell = new Uint16Array(cells.count);
  for (let g = 0; g < k; g++) {
    const members: number[] = [];
    for (let i = 0; i < cells.count; i++) if (assigned[i] === g) members.push(i);
    groupColour.push(g < settings.pinned.length ? settings.pinned[g] : meanOfCells(cells, members));
    const parts = emptyShades(members.length);
    members.forEach((cell, i) => {
      const [r, gr, b] = cells.linear.subarray(cell * 3, cell * 3 + 3);
      setShade(parts, i, cells.weight[cell], r, gr, b);
    });
    const inner = reduce(parts, PHOTO_SHADES);
    const first = group.length;
    for (let s = 0; s < inner.count; s++) {
      group.push(g);
      colours.push(
        meanOfCells(
          cells,
          members.filter((_, i) => inner.assigned[i] === s),
        ),
      );
    }
    members.forEach((cell, i) => (shadeOfCell[cell] = first + inner.assigned[i] + 1));
  }
  // Shades come in the order of their histogram cells, so the cells can be walked again.
  const used = new Uint8Array(1 << 15);
  for (let i = 0; i < data.length; i += 4) if (data[i + 3] >= BARE_ALPHA) used[cellAt(data, i)] = 1;
  const shadeAtCell = new Uint16Array(1 << 15);
  for (let c = 0, at = 0; c < used.length; c++) if (used[c]) shadeAtCell[c] = shadeOfCell[at++];
  const of = new Uint16Array(width * height);
  for (let i = 0; i < of.length; i++) if (data[i * 4 + 3] >= BARE_ALPHA) of[i] = shadeAtCell[cellAt(data, i * 4)];
  const shades = measureShades(raster, settings.source, of, colours, false);
  return {
    width,
    height,
    of,
    shades,
    group,
    pinned: new Set(settings.pinned.map((_, i) => i)),
    colours: groupColour,
    describe: (chosen) => meanOf(shades, chosen),
  };
}

const cellAt = (data: Uint8ClampedArray, at: number): number =>
  ((data[at] >> 3) << 10) | ((data[at + 1] >> 3) << 5) | (data[at + 2] >> 3);

function meanOfCells(cells: Shades, members: readonly number[]): Rgb {
  const sum = [0, 0, 0, 0];
  for (const i of members) {
    for (let j = 0; j < 3; j++) sum[j] += cells.weight[i] * cells.linear[i * 3 + j];
    sum[3] += cells.weight[i];
  }
  const n = Math.max(1, sum[3]);
  return { r: toByte(sum[0] / n), g: toByte(sum[1] / n), b: toByte(sum[2] / n) };
}

/** Each pixel takes the label that at least five of its 3 x 3 neighbourhood agree on. */
function majority(labels: Uint8Array, width: number, height: number): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(labels);
  const near = new Uint8Array(9);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let same = 0;
      let n = 0;
      for (let dy = -width; dy <= width; dy += width) {
        for (let dx = -1; dx <= 1; dx++) {
          const label = labels[i + dy + dx];
          near[n++] = label;
          if (label === labels[i]) same++;
        }
      }
      if (same >= 5) continue;
      for (let a = 0; a < 5; a++) {
        let votes = 0;
        for (let b = 0; b < 9; b++) if (near[b] === near[a]) votes++;
        if (votes >= 5) {
          out[i] = near[a];
          break;
        }
      }
    }
  }
  return out;
}
