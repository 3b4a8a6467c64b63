import type { FontOutlines } from '@open-kite/core';
import { array, lazy, number, object, string, type Schema } from 'yup';

/** A font letters can be set in. */
export interface FontInfo {
  readonly id: string;
  readonly name: string;
  readonly hint: string;
  /** Least height of capitals it is made for, in mm. */
  readonly leastMm: number;
  /** Centre lines, each a column of satin; or outlines. */
  readonly kind: 'strokes' | 'outlines';
}

export const fontInfoSchema = object({
  id: string().strict(true).required(),
  name: string().strict(true).required(),
  hint: string().strict(true).required(),
  leastMm: number().strict(true).required().min(1),
  kind: string().strict(true).required().oneOf(['strokes', 'outlines']),
}) as unknown as Schema<FontInfo>;

/** A text whose glyphs are asked for. */
export interface GlyphRequest {
  readonly text: string;
}

export const glyphRequestSchema = object({
  text: string().strict(true).defined('a text is missing').max(800, 'a text has at most 800 characters'),
}).noUnknown() as unknown as Schema<GlyphRequest>;

export const fontsSchema = array(fontInfoSchema.required()).required() as unknown as Schema<FontInfo[]>;

const byName = (entry: Schema) =>
  lazy((value: unknown) => object(Object.fromEntries(Object.keys(value ?? {}).map((name) => [name, entry]))));

/** Outlines of the letters of a text. */
export const fontOutlinesSchema = object({
  glyphs: byName(object({ d: string().strict(true).defined(), advance: number().strict(true).required() })),
  kerning: byName(number().strict(true).required()),
  leastMm: number().strict(true).required(),
}) as unknown as Schema<FontOutlines>;
