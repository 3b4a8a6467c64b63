import { strFromU8, strToU8, Unzlib, zlibSync } from 'fflate';
import type { Design } from '../design/design.js';
import type { GridChart } from '../cross/grid-chart.js';
import type { Curve } from '../geometry/curve.js';
import { keyOf } from '../pipeline/step.js';
import type { Chart } from '../colour/charts.js';
import type { Recipe } from '../recipe/recipe.js';
import { CORE_VERSION } from '../settings/version.js';

// A finished design in few bytes, to be shown again at once: columns of the stitch list as differences and run lengths,
// outlines as differences, the rest as JSON, all of it deflated. Ladders of satin columns are left out: they only make
// stitches, which are there.

/** Units of a stitch list, and of outlines, in mm: what files show of them is coarser. */
const STITCH_UNIT = 1e-3;
const OUTLINE_UNIT = 1e-6;
const MAGIC = 0x4b445031;
/** A packed design of a hundred times the stitches a machine would sew in a day. */
const MOST_BYTES = 128 * 1024 * 1024;
/** Rows of a stitch list: more than any machine takes. */
const MOST_ROWS = 4_000_000;
/** Packed bytes taken at a time, so that the limit is met before they have grown. */
const BITE = 16_384;

/**
 * Names what a design is made from: equal names, equal designs.
 * @param charts all there are; only those that the recipe looks at count
 * @param stash threads in the drawer, by `threadKey`; they count only for a recipe that asks for them
 */
export function designKey(
  recipe: Recipe,
  pictures: Readonly<Record<string, string>>,
  charts: readonly Chart[],
  stash: readonly string[],
): string {
  const drawer = recipe.objects.some((object) => object.kind === 'picture' && object.colours.stashOnly);
  const text = JSON.stringify(recipe);
  const used = charts.filter(({ id }) => drawer || text.includes(JSON.stringify(id)));
  const threads = used.map(({ id, threads: all }) => [id, all.map(({ code, name, hex }) => [code, name, hex])]);
  return keyOf('design', {
    core: CORE_VERSION,
    recipe,
    pictures,
    threads,
    stash: drawer ? [...stash].sort() : [],
  });
}

/** Packs a design. */
export function packDesign(design: Design): Uint8Array {
  const { stitches, pieces, barePieces, pictures, ...rest } = design;
  const numbers = new NumberWriter();
  const packCurve = ({ points, kinds }: Curve) => [numbers.differences(points, OUTLINE_UNIT, 2), kinds.join('')];
  const head = {
    ...rest,
    count: stitches.count,
    pieces: pieces.map(({ outline, paths, ...piece }) => ({
      ...piece,
      columns: undefined,
      outline: outline.map(packCurve),
      paths: paths.map(packCurve),
    })),
    barePieces: barePieces.map(({ outline, ...piece }) => ({ ...piece, outline: outline.map(packCurve) })),
    pictures: pictures.map(({ chart, ...picture }) => ({ ...picture, chart: chart && packChart(chart) })),
  };
  numbers.differences(stitches.x.subarray(0, stitches.count), STITCH_UNIT, 1);
  numbers.differences(stitches.y.subarray(0, stitches.count), STITCH_UNIT, 1);
  for (const column of [stitches.command, stitches.thread, stitches.piece]) {
    numbers.lengths(column.subarray(0, stitches.count));
  }
  const text = strToU8(JSON.stringify(head));
  const body = numbers.finish();
  const out = new Uint8Array(8 + text.length + body.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC);
  view.setUint32(4, text.length);
  out.set(text, 8);
  out.set(body, 8 + text.length);
  return zlibSync(out, { level: 6 });
}

function inflated(packed: Uint8Array): Uint8Array {
  const parts: Uint8Array[] = [];
  let size = 0;
  const unzip = new Unzlib((part) => {
    size += part.length;
    if (size > MOST_BYTES) throw new RangeError('too large');
    parts.push(part);
  });
  for (let at = 0; at < packed.length; at += BITE) {
    unzip.push(packed.subarray(at, at + BITE), at + BITE >= packed.length);
  }
  const out = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/**
 * Unpacks a design.
 * @throws RangeError if it is damaged
 */
export function unpackDesign(packed: Uint8Array): Design {
  try {
    const bytes = inflated(packed);
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    if (view.getUint32(0) !== MAGIC) throw new RangeError('it is something else');
    const length = view.getUint32(4);
    return readDesign(JSON.parse(strFromU8(bytes.subarray(8, 8 + length))) as PackedHead, bytes.subarray(8 + length));
  } catch (error) {
    throw new RangeError(
      `stored design: it cannot be read (${error instanceof Error ? error.message : String(error)})`,
    );
  }
}

type PackedCurve = readonly [count: number, kinds: string];
type PackedChart = ReturnType<typeof packChart>;
interface PackedHead extends Omit<Design, 'stitches' | 'pieces' | 'barePieces' | 'pictures'> {
  readonly count: number;
  readonly pieces: readonly (Omit<Design['pieces'][number], 'outline' | 'paths' | 'columns'> & {
    readonly outline: readonly PackedCurve[];
    readonly paths: readonly PackedCurve[];
  })[];
  readonly barePieces: readonly (Omit<Design['barePieces'][number], 'outline'> & {
    readonly outline: readonly PackedCurve[];
  })[];
  readonly pictures: readonly (Omit<Design['pictures'][number], 'chart'> & { readonly chart?: PackedChart })[];
}

function readDesign({ count, ...head }: PackedHead, body: Uint8Array): Design {
  if (!Number.isInteger(count) || count < 0 || count > MOST_ROWS)
    throw new RangeError('its number of rows is not sound');
  const numbers = new NumberReader(body);
  const curve = ([length, kinds]: PackedCurve): Curve => ({
    points: numbers.differences(length, OUTLINE_UNIT, 2),
    kinds: kinds.split('') as Curve['kinds'],
  });
  const pieces = head.pieces.map((piece) => ({
    ...piece,
    outline: piece.outline.map(curve),
    paths: piece.paths.map(curve),
    columns: [],
  }));
  const barePieces = head.barePieces.map((piece) => ({ ...piece, outline: piece.outline.map(curve) }));
  const x = Float32Array.from(numbers.differences(count, STITCH_UNIT, 1));
  const y = Float32Array.from(numbers.differences(count, STITCH_UNIT, 1));
  const command = numbers.lengths(new Uint8Array(count));
  const thread = numbers.lengths(new Uint8Array(count));
  const piece = numbers.lengths(new Uint16Array(count));
  return {
    ...head,
    pieces,
    barePieces,
    pictures: head.pictures.map(({ chart, ...picture }) => ({ ...picture, chart: chart && readChart(chart) })),
    stitches: { count, x, y, command, thread, piece },
  };
}

function packChart({ cells, backs, base, ...chart }: GridChart) {
  return {
    ...chart,
    cells: [...cells],
    backs: [...backs],
    base: { cells: [...base.cells], backs: [...base.backs] },
  };
}

function readChart({ cells, backs, base, ...chart }: PackedChart): GridChart {
  return {
    ...chart,
    cells: Uint32Array.from(cells),
    backs: new Map(backs),
    base: { cells: Uint32Array.from(base.cells), backs: new Map(base.backs) },
  };
}

/** Writes whole numbers, few bytes for small ones. */
class NumberWriter {
  private bytes = new Uint8Array(1 << 16);
  private used = 0;

  /** Differences of every `stride`-th number, in units; returns how many there are. */
  differences(values: ArrayLike<number>, unit: number, stride: number): number {
    for (let i = 0; i < values.length; i++) {
      const before = i < stride ? 0 : Math.round(values[i - stride] / unit);
      this.signed(Math.round(values[i] / unit) - before);
    }
    return values.length;
  }

  /** A value and how often it follows, in turn. */
  lengths(values: ArrayLike<number>): void {
    for (let i = 0; i < values.length;) {
      let end = i + 1;
      while (end < values.length && values[end] === values[i]) end++;
      this.whole(values[i]);
      this.whole(end - i);
      i = end;
    }
  }

  finish(): Uint8Array {
    return this.bytes.subarray(0, this.used);
  }

  private signed(value: number): void {
    this.whole(value < 0 ? -value * 2 - 1 : value * 2);
  }

  private whole(value: number): void {
    if (this.used + 10 > this.bytes.length) {
      const more = new Uint8Array(this.bytes.length * 2);
      more.set(this.bytes);
      this.bytes = more;
    }
    let rest = value;
    while (rest >= 128) {
      this.bytes[this.used++] = (rest % 128) + 128;
      rest = Math.floor(rest / 128);
    }
    this.bytes[this.used++] = rest;
  }
}

class NumberReader {
  private at = 0;

  constructor(private readonly bytes: Uint8Array) {}

  differences(count: number, unit: number, stride: number): number[] {
    const steps = 1 / unit;
    const whole: number[] = [];
    const out: number[] = [];
    for (let i = 0; i < count; i++) {
      const n = this.signed() + (i < stride ? 0 : whole[i - stride]);
      whole.push(n);
      out.push(n / steps);
    }
    return out;
  }

  lengths<T extends Uint8Array | Uint16Array>(into: T): T {
    for (let i = 0; i < into.length;) {
      const value = this.whole();
      const end = i + this.whole();
      if (end > into.length || end === i) throw new RangeError('its columns are not as long as they must be');
      into.fill(value, i, end);
      i = end;
    }
    return into;
  }

  private signed(): number {
    const value = this.whole();
    return value % 2 === 0 ? value / 2 : -(value + 1) / 2;
  }

  private whole(): number {
    let value = 0;
    for (let scale = 1; ; scale *= 128) {
      if (this.at >= this.bytes.length) throw new RangeError('it ends too early');
      const byte = this.bytes[this.at++];
      value += (byte & 127) * scale;
      if (byte < 128) return value;
    }
  }
}
