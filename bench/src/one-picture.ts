import {
  convert,
  pictureOfInput,
  pictureShades,
  pictureTones,
  preparedPicture,
  wholePicture,
  type ConvertOptions,
  type Design,
  type Raster,
  type StepCache,
} from '@open-kite/core';
import { onePicture } from '@open-kite/core/testing';

/** A picture and what is said of it. */
export type Given = Parameters<typeof onePicture>[0];

export const convertOne = (given: Given, options?: ConvertOptions): Promise<Design> =>
  convert(onePicture(given), options);
export const preparedOne = (given: Given, cache: StepCache): Promise<Raster> =>
  preparedPicture(pictureOfInput(onePicture(given)), cache);
export const wholeOne = (given: Given, cache: StepCache, pixels: number): Promise<Raster> =>
  wholePicture(pictureOfInput(onePicture(given)), cache, pixels);
export const tonesOne = (given: Given, cache: StepCache): Promise<Uint32Array> =>
  pictureTones(pictureOfInput(onePicture(given)), cache);
export const shadesOne = (given: Given, cache: StepCache) => pictureShades(pictureOfInput(onePicture(given)), cache);
