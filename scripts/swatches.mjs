// Small sewn pictures of stitch kinds, stitch patterns, motifs and fabrics, as the interface shows them beside their names: made by the
// renderer from stitches of the core.
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  convert,
  emptyRecipe,
  FABRICS,
  MOTIFS,
  newShape,
  objectFrame,
  OFFSET_PATTERNS,
  pulledDesign,
  refOfPiece,
  renderDesign,
  STITCH_KINDS,
  wholeMm2Of,
  writePng,
} from '@open-kite/core';

const out = fileURLToPath(new URL('../web/public/swatches', import.meta.url));
const THREAD = { hex: '#2f756e' };
const LIGHT = { hex: '#d9b45f' };
/** Pixels to the millimetre; a swatch shows 14 x 9 mm, or twice as much of what is large. */
const SCALE = 9;
const [WIDE, HIGH] = [14, 9];
const LARGE = new Set(['motif-line', 'motif-fill', 'stipple', 'cross-hatch']);

const node = (x, y, bend = 0) => [x, y, -bend, 0, bend, 0];
/** A leaf of rows, a bent column and a wave: what fills, columns and lines are seen by at a glance. */
const FORMS = {
  area: [
    {
      closed: true,
      nodes: [
        [-6, -3.4],
        [6, -3.4],
        [6, 3.4],
        [-6, 3.4],
      ].map(([x, y]) => node(x, y)),
    },
  ],
  column: [{ closed: false, nodes: [node(-5, 1.4), node(0, -1.4, 2.6), node(5, 1.4)] }],
  line: [{ closed: false, nodes: [node(-6, 1.6), node(-2, -1.6, 1.8), node(2, 1.6, 1.8), node(6, -1.6)] }],
};

const ROW = [{ closed: false, nodes: [node(-6.4, 0), node(6.4, 0)] }];

async function sewn(family, more, change = (recipe) => recipe) {
  const zoom = LARGE.has(more.as) ? 2 : 1;
  const paths = (more.as === 'motif-line' ? ROW : FORMS[family]).map(({ closed, nodes }) => ({
    closed,
    nodes: nodes.map((one) => one.map((mm) => mm * zoom)),
  }));
  const widthMm = family === 'column' ? 3.4 : 0.4;
  const shape = { ...newShape('a', null, paths, THREAD), widthMm, ...more };
  const recipe = change({ ...emptyRecipe(), objects: [shape] });
  return { recipe, zoom, design: await convert({ pictures: {}, recipe, charts: [] }) };
}

/** The same with an option of its kind. */
async function sewnWith(family, more, set) {
  const { recipe, design } = await sewn(family, more);
  const [piece] = design.pieces;
  const parts = { wholeMm2: (id) => wholeMm2Of(recipe.objects, id), colours: design.colours };
  const at = refOfPiece(piece, parts, objectFrame(recipe.objects, piece.object).toFrame);
  return sewn(family, more, (first) => ({ ...first, decisions: [{ kind: 'stitch', at, set }] }));
}

/** The middle of a sewn form. */
function keep(name, { design, zoom }) {
  const [width, height] = [WIDE * zoom, HIGH * zoom];
  const framed = { ...design, picture: { left: -width / 2, top: -height / 2, width, height } };
  writeFileSync(join(out, `${name}.png`), writePng(renderDesign(framed, SCALE / zoom, 'sewn', 0)));
}

mkdirSync(out, { recursive: true });
for (const { id, family } of STITCH_KINDS) {
  if (id !== 'running') keep(`kind-${id}-0`, await sewn(family, { as: id }));
  else for (const passes of [0, 1, 2, 3]) keep(`kind-${id}-${passes}`, await sewn(family, { as: id, passes }));
}
for (const { id } of OFFSET_PATTERNS) {
  const patterned = (recipe) => ({ ...recipe, stitches: { ...recipe.stitches, pattern: id } });
  // Nearer, and in a light thread: what differs is where the needle goes in.
  keep(`pattern-${id}`, { ...(await sewn('area', { as: 'tatami', paint: LIGHT }, patterned)), zoom: 0.7 });
}
// A fill beside a column on each fabric, drawn together as that one is when the hoop is off.
for (const fabric of FABRICS) {
  const field = [
    [-5.6, -2.8],
    [0.4, -2.8],
    [0.4, 2.8],
    [-5.6, 2.8],
  ].map(([x, y]) => node(x, y));
  const bar = [node(3.4, -2.8), node(3.4, 2.8)];
  const thread = parseInt(fabric.hex.slice(3, 5), 16) < 128 ? LIGHT : THREAD;
  const objects = [
    { ...newShape('a', null, [{ closed: true, nodes: field }], thread), as: 'tatami' },
    { ...newShape('b', null, [{ closed: false, nodes: bar }], thread), as: 'satin', widthMm: 3 },
  ];
  const recipe = { ...emptyRecipe(), cloth: { fabric: fabric.id, hex: fabric.hex }, objects };
  const design = await convert({ pictures: {}, recipe, charts: [] });
  keep(`fabric-${fabric.id}`, { design: pulledDesign(design, () => fabric), zoom: 1 });
}
for (const { id } of MOTIFS) keep(`motif-${id}`, await sewnWith('line', { as: 'motif-line' }, { motif: id }));
