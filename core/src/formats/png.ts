import { encode } from 'fast-png';
import type { DeflateOptions } from 'fflate';
import type { Raster } from '../picture/raster.js';

type PackLevel = NonNullable<DeflateOptions['level']>;

/**
 * Encodes a raster as PNG; the same bytes wherever it runs.
 * @param level how hard it is packed, 1 to 9
 */
export function writePng(raster: Raster, level: PackLevel = 6): Uint8Array {
  const opaque = isOpaque(raster);
  const { width, height, data } = raster;
  const bytes = opaque ? withoutAlpha(raster) : new Uint8Array(data.buffer, data.byteOffset, data.length);
  return encode({ width, height, data: bytes, channels: opaque ? 3 : 4, depth: 8 }, { zlib: { level } });
}

function isOpaque({ data }: Raster): boolean {
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return false;
  return true;
}

function withoutAlpha({ data, width, height }: Raster): Uint8Array {
  const out = new Uint8Array(width * height * 3);
  for (let i = 0, o = 0; i < data.length; i += 4) {
    out[o++] = data[i];
    out[o++] = data[i + 1];
    out[o++] = data[i + 2];
  }
  return out;
}
