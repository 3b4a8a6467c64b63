import { createHash } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { decode as decodeBmpFile } from 'bmp-ts';
import sharp, { type Sharp } from 'sharp';
import type { Picture } from '@open-kite/contract';
import {
  createRaster,
  findScribble,
  frameOf,
  readDesignJson,
  readStitchList,
  readSvg,
  renderDesign,
  writeStitchList,
  type Artwork,
  type Raster,
  type Sewing,
} from '@open-kite/core';
import { UserError } from '../user-error.js';
import { checkSvg } from './check-svg.js';
import { fileKind } from './file-kind.js';

/** Largest picture in pixels, and largest file in bytes. */
export const MOST_PIXELS = 60_000_000;
export const MOST_BYTES = 48 * 1024 * 1024;
const MOST_SIDE = 20_000;
/** Bytes of vector artwork, unpacked. */
const MOST_TEXT = 24_000_000;
/** Longest side vector artwork is drawn at. */
const SVG_SIDE = 1200;

/** A picture made uniform: upright, sRGB, RGBA, without metadata. */
export interface DecodedPicture {
  readonly raster: Raster;
  readonly kind: Picture['kind'];
  /** Source of vector artwork, and its shapes. */
  readonly source?: Buffer;
  readonly artwork?: Artwork;
  /** What is sewn, where the file is a stitch list or a design; its picture shows it. */
  readonly sewing?: Sewing;
}

const NONE_OF = 'its content is none of PNG, JPEG, WebP, GIF, BMP, TIFF or SVG';

const unreadable = (why: string): UserError => new UserError(422, `not a picture that can be read (${why})`);

/**
 * Decodes PNG, JPEG, WebP, GIF, TIFF, BMP and SVG.
 * @throws UserError that says what is wrong with the file.
 */
export async function decodePicture(bytes: Buffer): Promise<DecodedPicture> {
  if (bytes.length === 0) throw unreadable('the file is empty');
  if (bytes.length > MOST_BYTES) throw new UserError(413, tooManyBytes(bytes.length));
  switch (fileKind(bytes)) {
    case 'bmp':
      return { raster: decodeBmp(bytes), kind: 'raster' };
    case 'gzip':
      return decodeSvg(unpacked(bytes));
    case 'list':
      return decodeList(textOf(bytes));
    case 'text':
      return decodeSvg(bytes);
    case undefined:
      throw unreadable(NONE_OF);
    default:
      return { raster: await decodeWithSharp(bytes, false), kind: 'raster' };
  }
}

/** Longest side of the picture that shows a stitch list, and the most pixels a millimetre of it has. */
const LIST_SIDE = 900;
const LIST_SCALE = 6;
/** From so many stitches on the picture of a list is smaller and drawn at once: nobody waits two seconds for it. */
const LARGE_LIST = 40_000;
const LARGE_LIST_SIDE = 160;

/** A stitch list or a design as JSON; what is stored is the list. */
function decodeList(text: string): DecodedPicture {
  const isList = text.startsWith('#');
  let sewing: Sewing;
  try {
    sewing = isList ? readStitchList(text) : readDesignJson(text);
  } catch (error) {
    throw new UserError(422, `not a design that can be read (${(error as Error).message})`);
  }
  const { width, height } = frameOf(sewing, 3);
  const isLarge = sewing.stitches.count > LARGE_LIST;
  const scale = Math.min(LIST_SCALE, (isLarge ? LARGE_LIST_SIDE : LIST_SIDE) / Math.max(width, height, 1));
  const raster = renderDesign(sewing, scale, 'sewn', 3, isLarge);
  return { raster, kind: 'list', source: Buffer.from(isList ? text : writeStitchList(sewing)), sewing };
}

/** Vector artwork is checked and read before anything draws it; what is stored is plain text in UTF-8. */
async function decodeSvg(bytes: Buffer): Promise<DecodedPicture> {
  const text = textOf(bytes);
  checkSvg(text);
  const artwork = readArtwork(text);
  const source = Buffer.from(text);
  return { raster: await decodeWithSharp(source, true), kind: 'svg', source, artwork };
}

/** Unpacks gzipped artwork, up to what artwork may have. */
function unpacked(bytes: Buffer): Buffer {
  try {
    return gunzipSync(bytes, { maxOutputLength: MOST_TEXT });
  } catch (error) {
    const large = (error as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE';
    throw unreadable(large ? `it unpacks to more than ${MOST_TEXT / 1e6} MB` : 'the packed file is damaged');
  }
}

function textOf(bytes: Buffer): string {
  if (bytes.length > MOST_TEXT) throw new UserError(413, `the artwork is too large (at most ${MOST_TEXT / 1e6} MB)`);
  const utf16 =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : '';
  if (!utf16) return bytes.toString('utf8').replace(/^\uFEFF/, '');
  // What it says of its encoding is no longer so.
  return new TextDecoder(utf16).decode(bytes).replace(/^(\s*<\?xml[^>]*?)\s+encoding=(["'])[^"']*\2/, '$1');
}

function readArtwork(text: string): Artwork {
  try {
    const artwork = readSvg(text);
    const scribble = findScribble(artwork);
    if (scribble)
      throw unreadable(`SVG: outlines cross themselves or each other thousands of times, as ${scribble.name} does`);
    return artwork;
  } catch (error) {
    if (error instanceof RangeError) throw unreadable(error.message);
    throw error;
  }
}

const tooManyBytes = (size: number): string =>
  `the file is too large (${Math.ceil(size / 1048576)} MB; at most ${MOST_BYTES / 1048576} MB)`;

/** Hash of a picture's content: its size and pixels, and its source if it is vector artwork. */
export function hashOf({ raster, source }: DecodedPicture): string {
  const hash = createHash('sha256').update(`${raster.width}x${raster.height}\n`).update(raster.data);
  if (source) hash.update(source);
  return hash.digest('hex');
}

/** Pixels as a PNG without metadata; packing more takes twice as long and saves a tenth. */
export function pngOf({ width, height, data }: Raster): Promise<Buffer> {
  return sharp(data, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 2 })
    .toBuffer();
}

/** The raster of a PNG that `pngOf` made. */
export async function rasterOf(png: Buffer): Promise<Raster> {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return createRaster(info.width, info.height, new Uint8ClampedArray(data.buffer, data.byteOffset, data.length));
}

async function decodeWithSharp(bytes: Buffer, vector: boolean): Promise<Raster> {
  let picture: Sharp;
  try {
    const { width, height, autoOrient } = await sharp(bytes, { limitInputPixels: false }).metadata();
    if (vector) {
      const density = await svgDensity(bytes, Math.max(width, height));
      picture = sharp(bytes, { density, limitInputPixels: MOST_PIXELS }).resize({
        width: SVG_SIDE,
        height: SVG_SIDE,
        fit: 'inside',
        withoutEnlargement: true,
      });
    } else {
      checkSize(autoOrient.width, autoOrient.height);
      picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'warning' }).autoOrient();
    }
    const { data, info } = await picture
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    return createRaster(info.width, info.height, new Uint8ClampedArray(data.buffer, data.byteOffset, data.length));
  } catch (error) {
    if (error instanceof UserError) throw error;
    throw unreadable(reasonOf(error));
  }
}

/**
 * The density at which an SVG comes out SVG_SIDE pixels long. Sizes in pixels grow with the density, those in
 * millimetres with its square: which it is, a trial at twice the density tells.
 */
async function svgDensity(bytes: Buffer, longest: number): Promise<number> {
  if (!(longest > 0)) throw unreadable('SVG: it has no size');
  const twice = await sharp(bytes, { density: 144, limitInputPixels: false }).metadata();
  const power = Math.max(twice.width, twice.height) / longest > 3 ? 2 : 1;
  return Math.min(2400, Math.max(1, 72 * (SVG_SIDE / longest) ** (1 / power)));
}

function checkSize(width: number, height: number): void {
  if (width * height <= MOST_PIXELS && Math.max(width, height) <= MOST_SIDE) return;
  throw new UserError(
    413,
    `the picture is too large (${width} x ${height} pixels; at most ${MOST_PIXELS / 1e6} megapixels and ${MOST_SIDE} a side)`,
  );
}

/** A decoder's complaint in one plain sentence. */
function reasonOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  if (/unsupported image format|no known|corrupt header: heif/i.test(text)) {
    return NONE_OF;
  }
  return 'the file is damaged or incomplete';
}

const BMP_DEPTHS = [1, 4, 8, 16, 24, 32];

function decodeBmp(bytes: Buffer): Raster {
  // Width and height stand at fixed places: checked before anything is allocated.
  if (bytes.length < 34) throw unreadable('the file is damaged or incomplete');
  const width = bytes.readInt32LE(18);
  const height = Math.abs(bytes.readInt32LE(22));
  if (width <= 0 || height <= 0) throw unreadable('the file is damaged or incomplete');
  checkSize(width, height);
  const depth = bytes.readUInt16LE(28);
  if (!BMP_DEPTHS.includes(depth)) throw unreadable('the file is damaged or incomplete');
  // Runs of one colour are at most 255 pixels, and every row has its end.
  const runs = [1, 2].includes(bytes.readUInt32LE(30));
  const row = runs ? 2 * Math.ceil(width / 255) : Math.ceil((width * depth) / 32) * 4;
  const needed = bytes.readUInt32LE(10) + row * height;
  if (bytes.length < needed) throw unreadable('the file is damaged or incomplete');
  try {
    const { data } = decodeBmpFile(bytes, { toRGBA: true });
    const pixels = new Uint8ClampedArray(data);
    // Most BMP files leave the fourth byte at 0 and mean opaque.
    for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255;
    return createRaster(width, height, pixels);
  } catch {
    throw unreadable('the file is damaged or incomplete');
  }
}
