import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { boxKiteSvg } from './box-kite.js';
import { crestSvg } from './crest.js';
import { harbourPixels } from './harbour.js';
import { maskPixels, stillLifePixels } from './photo-like.js';
import { pennantSvg } from './pennant.js';
import { portraitPixels } from './portrait.js';
import { quiltBlockPixels } from './quilt-block.js';

/** Which of the rendered faces is the kite flyer of the demo data. */
const FLYER = 4;

/** The demo pictures by file name, drawn anew. */
export async function makeArtwork(): Promise<Map<string, Buffer>> {
  const raw = ({ width, height, data }: { width: number; height: number; data: Uint8Array }): Sharp =>
    sharp(data, { raw: { width, height, channels: 3 } });
  return new Map<string, Buffer>([
    ['crest.png', await sharp(Buffer.from(crestSvg())).removeAlpha().png({ compressionLevel: 9 }).toBuffer()],
    ['box-kite.jpg', await sharp(Buffer.from(boxKiteSvg())).jpeg({ quality: 62 }).toBuffer()],
    ['harbour.jpg', await raw(harbourPixels()).jpeg({ quality: 86 }).toBuffer()],
    ['still-life.jpg', await raw(stillLifePixels()).jpeg({ quality: 86 }).toBuffer()],
    ['carved-mask.jpg', await raw(maskPixels()).jpeg({ quality: 86 }).toBuffer()],
    ['kite-flyer.jpg', await raw(portraitPixels(FLYER)).jpeg({ quality: 88 }).toBuffer()],
    ['pennant.svg', Buffer.from(pennantSvg())],
    ['quilt-block.png', await raw(quiltBlockPixels()).png({ compressionLevel: 9 }).toBuffer()],
  ]);
}

/** Writes the demo pictures into a folder. */
export async function writeArtwork(folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  for (const [name, bytes] of await makeArtwork()) await writeFile(join(folder, name), bytes);
}
