import { array, mixed, number, object, string, type InferType } from 'yup';
import type { PictureBox } from '../picture/frame.js';
import type { Design } from '../design/design.js';
import { measuredSchema } from '../recipe/measured-schema.js';
import type { Sewing } from '../sequence/sewing.js';
import { svgPath } from '../geometry/curve.js';
import { COMMANDS } from '../sequence/stitch-list.js';
import { asFile, headCheck } from './file-head.js';
import { SewingReader } from './sewing-reader.js';

const FORMAT = 'open-kite design';
const VERSION = 1;

/** Writes a design as JSON: pieces with their outlines, threads, and the stitch list as columns. */
export function writeDesignJson(design: Design): string {
  const { stitches: list } = design;
  const value = {
    format: FORMAT,
    version: VERSION,
    fabric: design.fabric,
    picture: design.picture,
    threads: design.threads,
    ...(design.carried ?? madeOf(design)),
    stitches: {
      x: Array.from(list.x, (v) => Number(v.toFixed(3))),
      y: Array.from(list.y, (v) => Number(v.toFixed(3))),
      command: Array.from(list.command, (c) => COMMANDS[c]),
      thread: Array.from(list.thread),
      piece: Array.from(list.piece, (p) => design.pieceIds[p] ?? ''),
    },
  };
  return JSON.stringify(value) + '\n';
}

/** What is told of a design beside its stitches: colours, order and pieces. */
function madeOf(design: Design): Readonly<Record<string, unknown>> {
  return {
    colours: design.colours.map((c) => ({
      ...c,
      share: Number(c.share.toFixed(5)),
      shades: c.shades.map((shade) => ({ ...shade, share: Number(shade.share.toFixed(5)) })),
    })),
    order: design.order.map((i) => design.pieces[i].id),
    pieces: design.pieces.map((piece) => ({
      id: piece.id,
      origin: piece.origin,
      object: piece.object,
      part: piece.part,
      thread: piece.thread,
      kind: piece.kind,
      widthMm: Number(piece.widthMm.toFixed(3)),
      areaMm2: Number(piece.areaMm2.toFixed(3)),
      outline: piece.outline.map((curve) => svgPath(curve, 3, true)),
      paths: piece.paths.map((curve) => svgPath(curve, 3, false)),
    })),
  };
}

/**
 * Reads the sewable part of a design written as JSON.
 * @throws RangeError that says what is missing or wrong.
 */
export function readDesignJson(text: string): Sewing {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new RangeError('design: this is not JSON');
  }
  const { colours, order, pieces } = (value ?? {}) as Record<string, unknown>;
  return { ...sewingOf(checked(value)), carried: { colours, order, pieces } };
}

const list = () =>
  mixed<unknown[]>()
    .required()
    .test('list', '${path} must be a list', (value) => Array.isArray(value));

const checkHead = headCheck({ format: FORMAT, version: VERSION });

const schema = object({
  fabric: object({
    id: string().strict(true).required(),
    hex: string().strict(true).required(),
    measured: measuredSchema.optional().default(undefined),
  }).required(),
  picture: mixed<PictureBox>().nullable(),
  threads: array(
    object({
      code: string().strict(true).defined(),
      name: string().strict(true).defined(),
      hex: string().strict(true).required(),
      chart: string().strict(true).required(),
      deltaE: number().strict(true).optional(),
    }),
  ).required(),
  stitches: object({ x: list(), y: list(), command: list(), thread: list(), piece: list() }).required(),
});

type DesignFile = InferType<typeof schema>;

const checked = (value: unknown): DesignFile =>
  asFile('design', () => {
    checkHead(value);
    return schema.validateSync(value, { strict: true });
  });

function sewingOf({ fabric, picture, threads, stitches }: DesignFile): Sewing {
  const { x, y, command, thread, piece } = stitches;
  if (![y, command, thread, piece].every((column) => column.length === x.length)) {
    throw new RangeError('design: the columns of the stitches differ in length');
  }
  const at =
    (where: string) =>
    (what: string): never => {
      throw new RangeError(`design: ${where}: ${what}`);
    };
  const reader = new SewingReader();
  reader.onFabric(fabric.id, fabric.hex, at('fabric'), fabric.measured);
  if (picture) reader.inPicture([picture.left, picture.top, picture.width, picture.height], at('picture'));
  threads.forEach((t, i) => reader.thread(i, t.code, t.name, t.hex, t.chart, at(`thread ${i}`)));
  let row = 0;
  const fail = (what: string): never => at(`stitch ${row}`)(what);
  for (; row < x.length; row++) reader.row(x[row], y[row], command[row], thread[row], piece[row], fail);
  const sewing = reader.finish();
  return { ...sewing, threads: sewing.threads.map((t, i) => ({ ...t, deltaE: threads[i].deltaE ?? 0 })) };
}
