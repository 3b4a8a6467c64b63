import type { Design } from '../design/design.js';
import { renderDesign } from '../sewn-look/render.js';
import { writeDesignJson } from './design-json.js';
import { writeGcode } from './gcode.js';
import { writePng } from './png.js';
import { writeStitchList } from './stitch-list-csv.js';
import { writeStitchSvg } from './svg.js';

/** Pixels a millimetre of an exported sewn look. */
const PNG_SCALE = 10;

/** Kinds of file that hold nothing but the design, by their ending; one writer for browser and command line. */
export const DESIGN_FILES = {
  csv: writeStitchList,
  json: writeDesignJson,
  svg: writeStitchSvg,
  gcode: writeGcode,
  png: (design: Design): Uint8Array => writePng(renderDesign(design, PNG_SCALE, 'sewn')),
} as const satisfies Record<string, (design: Design) => string | Uint8Array>;

export type DesignFile = keyof typeof DESIGN_FILES;
