/** Decoded picture: RGBA, 8 bits a channel, not premultiplied, sRGB, row by row from the top left. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Pixels with less alpha than this are bare cloth. */
export const BARE_ALPHA = 128;

/**
 * Wraps pixels as a raster.
 * @throws RangeError if the sizes are not whole numbers over 0 or do not fit the data.
 */
export function createRaster(width: number, height: number, data?: Uint8ClampedArray): Raster {
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1) {
    throw new RangeError(`raster: width and height must be whole numbers over 0, got ${width} x ${height}`);
  }
  const pixels = data ?? new Uint8ClampedArray(width * height * 4);
  if (pixels.length !== width * height * 4) {
    throw new RangeError(`raster: ${width} x ${height} needs ${width * height * 4} bytes, got ${pixels.length}`);
  }
  return { width, height, data: pixels };
}
