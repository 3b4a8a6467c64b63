import { mkdirSync, readFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { decodePicture } from '@open-kite/server';
import { borderBench } from './border-bench.js';
import { browserBench, sliderBench } from './browser-bench.js';
import { colourBench } from './colour-bench.js';
import { coreBench } from './core-bench.js';
import { dropBench } from './drop-bench.js';
import { fontSheet } from './font-sheet.js';
import { lettersBench } from './letters-bench.js';
import { facesBench, paintingsBench, photoBench } from './photo-bench.js';
import { cardBench } from './card-bench.js';
import { editsBench } from './edits-bench.js';
import { openingBench } from './opening-bench.js';
import { sewBench } from './sew-bench.js';
import { shelfBench } from './shelf-bench.js';
import { piecesBench } from './pieces-bench.js';
import { stitchesBench } from './stitches-bench.js';
import { crossBench } from './cross-bench.js';
import { gradientBench } from './gradient-bench.js';
import { crestBench } from './crest-bench.js';

// Prints the figures the project is held to. Needs a build: npm run build && npm run bench
const root = fileURLToPath(new URL('../..', import.meta.url));
const file = join(root, 'demo/artwork/crest.png');
const { raster } = await decodePicture(readFileSync(file));
mkdirSync(join(root, 'dist/bench'), { recursive: true });
// One part alone: npm run bench -- faces
const PARTS: Readonly<Record<string, () => Promise<void>>> = {
  faces: () => facesBench(root),
  paintings: () => paintingsBench(root),
  shelf: shelfBench,
  browser: async () => browserBench((await decodePicture(readFileSync(join(root, 'demo/artwork/harbour.jpg')))).raster),
  slider: sliderBench,
  card: cardBench,
  sew: sewBench,
  borders: borderBench,
  letters: () => lettersBench(process.argv[3]),
  edits: editsBench,
  fonts: () => fontSheet(root),
  opening: openingBench,
  drop: dropBench,
};
const part = PARTS[process.argv[2] ?? ''];
if (part) {
  await part();
  process.exit(0);
}
console.log(`Node ${process.version}, ${cpus().length} x ${cpus()[0]?.model ?? 'unknown processor'}`);
await crestBench(root, file, raster);
await stitchesBench(root, raster);
await import('./hand/main.js');
await lettersBench();
await borderBench();
await coreBench('crest', raster);
await piecesBench(raster);
await photoBench(root);
await crossBench(root);
await gradientBench();
const photo = await decodePicture(readFileSync(join(root, 'demo/artwork/harbour.jpg')));
await colourBench(photo.raster, raster);
await browserBench(photo.raster);
await shelfBench();
await openingBench();
await cardBench();
await sewBench();
await editsBench();
