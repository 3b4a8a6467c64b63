import type { Design } from '../design/design.js';
import { renderDesign } from '../sewn-look/render.js';
import { writeAppliqueSvg } from './applique-svg.js';
import { writeDesignJson } from './design-json.js';
import { writeGcode } from './gcode.js';
import { writePng } from './png.js';
import { writeStitchList } from './stitch-list-csv.js';
import { writeStitchSvg } from './svg.js';
import { writeThreadList } from './thread-list.js';

/** Pixels a millimetre of an exported sewn look. */
const PNG_SCALE = 10;

/** A kind of file a design can be taken away as. */
export interface Format {
  /** What names of such files end in. */
  readonly ending: string;
  readonly name: string;
  /** What it is for, in one sentence. */
  readonly hint: string;
  readonly type: string;
  /** Writes it from the design alone; others need the project, or are printed. */
  readonly write?: (design: Design) => string | Uint8Array;
  /** Whether a design has anything for it. */
  readonly fits?: (design: Design) => boolean;
}

/** Every format, the most used first. A new one is a file beside this one and an entry here. */
export const FORMATS: readonly Format[] = [
  {
    ending: 'kite',
    name: 'Project archive',
    hint: 'Everything, to be opened and changed again, here or by somebody else.',
    type: 'application/zip',
  },
  {
    ending: 'csv',
    name: 'Stitch list',
    hint: 'One row a stitch: for machines, converters and scripts.',
    type: 'text/csv',
    write: writeStitchList,
  },
  {
    ending: 'pdf',
    name: 'Worksheet',
    hint: 'For whoever sews it: the design at true size, threads in order, stabiliser, stops.',
    type: 'application/pdf',
  },
  {
    ending: 'png',
    name: 'Picture, sewn look',
    hint: 'To show a customer before a stitch is sewn.',
    type: 'image/png',
    write: (design) => writePng(renderDesign(design, PNG_SCALE, 'sewn')),
  },
  {
    ending: 'svg',
    name: 'Stitches as SVG',
    hint: 'Every stitch as a line, for drawing programs and plotters.',
    type: 'image/svg+xml',
    write: writeStitchSvg,
  },
  {
    ending: 'json',
    name: 'Design JSON',
    hint: 'Pieces, threads and stitches, for programs.',
    type: 'application/json',
    write: writeDesignJson,
  },
  {
    ending: 'gcode',
    name: 'G-code',
    hint: 'For open-hardware machines that are driven as plotters are.',
    type: 'text/plain',
    write: writeGcode,
  },
  {
    ending: 'threads.csv',
    name: 'Thread list',
    hint: 'Threads with their metres: what to buy, or to take out of the drawer.',
    type: 'text/csv',
    write: writeThreadList,
  },
  {
    ending: 'applique.svg',
    name: 'Applique shapes',
    hint: 'The cloth shapes at true size with their seam allowance, to be cut.',
    type: 'image/svg+xml',
    write: writeAppliqueSvg,
    fits: ({ pieces }) => pieces.some(({ role }) => role !== 'plain'),
  },
  {
    ending: 'chart.pdf',
    name: 'Counted cross chart',
    hint: 'The grid with its symbols, to be stitched by hand.',
    type: 'application/pdf',
    fits: ({ pictures }) => pictures.some(({ chart }) => chart !== undefined),
  },
];

/** The format of a file by its name; of several endings that fit, the longest. */
export function formatOf(file: string): Format | undefined {
  const name = file.toLowerCase();
  return FORMATS.filter(({ ending }) => name.endsWith(`.${ending}`)).sort(
    (a, b) => b.ending.length - a.ending.length,
  )[0];
}
