import type { Picture } from '@open-kite/contract';
import type {
  Anchor,
  Chart,
  CurvePoint,
  Design,
  Finding,
  OutlineAt,
  PictureView,
  Recipe,
  StepName,
  StitchList,
  StitchesObject,
} from '@open-kite/core';
import type { DesignMeasures } from './design-measures';

/** Ending of a format a design can be taken away as: one of `FORMATS`. */
export type ExportKind = string;

export type ProgressListener = (step: StepName, share: number) => void;

export interface Preview {
  readonly png: Uint8Array<ArrayBuffer>;
  readonly stitches: number;
  readonly threads: number;
  readonly minutes: number;
  readonly threadChanges: number;
}

/** Workers that draw a design, each with a list of stitches of its own; more would take turns with the conversion on small machines. */
export const DRAWERS = 2;

/** Opacity, of 255, of the cloth over what is not pointed at. */
export const DIMMED = 214;

export interface Converted {
  readonly design: Design;
  readonly measures: DesignMeasures;
  /** Copies of the stitches for whoever draws them, to be handed on without another one. */
  readonly spares: readonly StitchList[];
}

/** A design by a recipe that somebody only thinks of, and what would be found in it. */
export interface Tried extends Converted {
  readonly findings: readonly Finding[];
}

/** What the conversion worker offers; spoken through comlink. */
export interface ConvertWorker {
  /** Sews a small painting that nobody sees before anything is asked for: code that ran once is more than twice as fast. A conversion stops it. */
  getReady(): Promise<void>;
  /** Fetches a picture that will be asked for soon. */
  fetchAhead(picture: Picture): void;
  /**
   * Fetches the exact pixels of pictures, and their shapes, by their names in recipes; the conversions that follow work
   * on them. Pictures it has already stay.
   */
  open(pictures: Readonly<Record<string, Picture>>): Promise<void>;
  /**
   * Shows a finished design that was stored, if it is of just this recipe, as if it had been converted.
   */
  restore(
    packed: ArrayBuffer,
    designKey: string,
    recipe: Recipe,
    pictures: Readonly<Record<string, Picture>>,
    copies: number,
  ): Promise<Converted | undefined>;
  /** Stores the last full design with a project. */
  keep(projectId: string): Promise<void>;
  /** Threads the conversions that follow may use. */
  setCupboard(charts: readonly Chart[], stash: readonly string[]): void;
  /**
   * Converts; a later call or `cancel` stops an earlier one, which then gives undefined.
   * @param job grows with every call
   * @param copies of the stitches, for those who draw them
   */
  convert(
    job: number,
    recipe: Recipe,
    quality: 'rough' | 'full',
    copies: number,
    progress: ProgressListener,
  ): Promise<Converted | undefined>;
  cancel(job: number): void;
  /** Makes a rough result that nobody sees, so that the first one that is asked for comes sooner. A conversion stops it. */
  warmUp(recipe: Recipe): Promise<void>;
  /**
   * How the design would be by another recipe; the last full design stays what it is. Undefined where a conversion or
   * another try was asked for meanwhile.
   */
  tryOut(recipe: Recipe): Promise<Tried | undefined>;
  /** Likeness of the last full design: CIEDE2000 and similarity. */
  likeness(): Promise<{ deltaE: number; ssim: number } | undefined>;
  /** What will or may go wrong with the last full design, or is wasted; undefined where a newer one is asked for. */
  findings(): Promise<Finding[] | undefined>;
  /** Shows where a colour of a picture is, counted among its own, or one of its shades: everything else is covered with cloth. */
  where(recipe: Recipe, object: string, colour: number, shade: number | undefined): Promise<ImageBitmap | undefined>;
  /** Outline of what is of one colour at a place of the source picture. */
  outlineAt(recipe: Recipe, object: string, u: number, v: number, tolerance: number): Promise<OutlineAt | undefined>;
  /** Difference against number of threads; undefined where a newer curve was asked for. */
  curve(recipe: Recipe, object: string, most: number): Promise<CurvePoint[] | undefined>;
  /** A stored stitch list as an object of a design. */
  listAt(hash: string, id: string, source: string): Promise<StitchesObject>;
  /** The last full design as a file. */
  exportAs(kind: ExportKind, name: string, recipe: Recipe): Promise<Uint8Array<ArrayBuffer>>;
  /** A small picture of the last full design, for the shelf. */
  preview(): Promise<Preview | undefined>;
}

/**
 * What the picture worker offers, apart from the conversion, so that the picture follows its light while stitches are
 * being made; spoken through comlink.
 */
export interface PictureWorker {
  /** Fetches the exact pixels of a picture. */
  open(picture: Picture): Promise<void>;
  /** The whole picture in the light of a recipe, for the screen; undefined where a newer one was asked for. */
  picture(view: PictureView, pixels: number): Promise<ImageBitmap | undefined>;
  /** How many pixels have each lightness, before the light is changed. */
  tones(view: PictureView): Promise<Uint32Array>;
  /** Colour of the source picture at a place of it. */
  sample(u: number, v: number): Anchor | undefined;
}
