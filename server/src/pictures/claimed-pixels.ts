import sharp from 'sharp';
import { fileKind } from './file-kind.js';

/** Pixels a file says it has, read from its head alone; 0 where it does not say, or is vector artwork. */
export async function claimedPixels(bytes: Buffer): Promise<number> {
  const kind = fileKind(bytes);
  if (kind === undefined || kind === 'text' || kind === 'gzip') return 0;
  if (kind === 'bmp') return bytes.length < 26 ? 0 : Math.abs(bytes.readInt32LE(18) * bytes.readInt32LE(22));
  try {
    const { width, height } = await sharp(bytes, { limitInputPixels: false }).metadata();
    return width * height;
  } catch {
    return 0;
  }
}
