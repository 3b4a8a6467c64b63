import type { Matrix } from '../artwork/matrix.js';
import type { GridEdits } from '../cross/grid-edits.js';
import type { Corners } from '../trace/spine-stretches.js';
import type { EdgeBegins, EdgeEnds } from './edge-runs.js';
import type { PatchForm } from './patch-form.js';
import type { TextChoices } from '../letters/layout.js';
import type { PictureBox, Placement } from '../picture/frame.js';
import type { Light } from '../picture/light.js';
import type { Mask } from '../picture/mask.js';
import type { DrawnPath } from '../pieces/drawn.js';
import type { ClothChoice } from '../pieces/laid-cloth.js';
import type { PieceRef, ThreadChoice } from '../pieces/piece-ref.js';
import type { PieceKind } from '../pieces/sewn-as.js';
import type { OptionValues } from '../stitches/stitch-kind.js';
import type { ColourDecision } from '../trace/colour-decisions.js';

/** What every object of a design has. */
export interface ObjectBase {
  readonly id: string;
  /** Name the user gave it; where it is empty, what it is says it. */
  readonly name: string;
  /** The object it moves with, in whose frame its own lies; null lies on the cloth, in mm. */
  readonly on: string | null;
  /** Neither sewn nor shown. */
  readonly hidden: boolean;
  /** Not chosen or moved by the pointer. */
  readonly locked: boolean;
  /** Objects of one group are chosen together. */
  readonly group?: string;
}

/** What is done with a plain ground, and how it is told from the rest. */
export interface GroundChoice {
  /** Leave it bare. */
  readonly dropGround: boolean;
  /** Its colour as in the picture before the light is changed; null finds it on the picture's border. */
  readonly groundHex: string | null;
  /** Colours this near to it (CIEDE2000) are ground as well. */
  readonly groundTolerance: number;
  /** Also where it does not reach the border. */
  readonly groundEverywhere: boolean;
  /** Colour of what a frame larger than the picture adds; null goes on with the picture's plain border, or stays bare. */
  readonly beyondHex: string | null;
}

/** How a picture lies on the cloth, and what of it is used. */
export type PicturePlace = Placement &
  GroundChoice & {
    readonly xMm: number;
    readonly yMm: number;
    /** Masks put aside, for later. */
    readonly keptMasks: readonly Mask[];
  };

/** Everything that is said of one picture. */
export interface PictureBody {
  /** How the picture becomes stitches: from traced pieces, or by one of the renderings. */
  readonly method: string;
  readonly picture: PicturePlace;
  readonly light: Light;
  readonly colours: {
    /** Colours at most, or as many as the picture suggests. */
    readonly count: number | 'auto';
    /** Thread charts to match to; empty keeps the picture's own colours. */
    readonly charts: readonly string[];
    /** Match only to threads that are in the drawer. */
    readonly stashOnly: boolean;
    /** Two colours never share a thread while there are others. */
    readonly distinct: boolean;
    /** Spots of colour smaller than this join a neighbour. */
    readonly smallestSpotMm2: number;
    /** What was said about single colours, in the order it was said. */
    readonly decisions: readonly ColourDecision[];
  };
  readonly pieces: {
    /** How far an outline may leave the picture's edge. */
    readonly strictnessMm: number;
    readonly cornerSharpness: number;
    /** Smallest piece worth sewing. */
    readonly smallestMm2: number;
    /** Areas up to this mean width are sewn as lines. */
    readonly lineBelowMm: number;
    /** Areas up to this wide at their widest place are sewn as satin, if columns fill them. */
    readonly satinBelowMm: number;
    /** Pieces below others are cut away, except under what is narrower than this. */
    readonly keepBelowMm: number;
  };
  readonly rendering: RenderingChoices;
}

/** A source picture, converted by a method of its own. Its frame counts shares of the source picture's sides. */
export interface PictureObject extends ObjectBase, PictureBody {
  readonly kind: 'picture';
  /** Which of the project's pictures it shows: `picture-1`, `picture-2` … */
  readonly source: string;
  /** It is there to draw over: not sewn itself, though what lies on it is. */
  readonly sketch?: true;
}

/** A shape or lines of the user's own, or a hole cut into what lies below. */
export interface ShapeObject extends ObjectBase {
  readonly kind: 'shape';
  /** From its own frame to that of the object it moves with. */
  readonly place: Matrix;
  readonly role: 'piece' | 'hole';
  /** Outer path first, then holes; open paths are lines. */
  readonly paths: readonly DrawnPath[];
  /** Width of a line in mm. */
  readonly widthMm: number;
  readonly as: PieceKind | 'auto';
  readonly passes: number;
  readonly paint: ThreadChoice;
  /** Copies in a ring; 1 is the shape alone. The radius is a share of its frame's width, or mm on the cloth. */
  readonly copies: { readonly count: number; readonly radius: number };
  /** The found piece it was made from by moving points: that one is not sewn. */
  readonly replaces: PieceRef | null;
}

/** Steps an applique is sewn in. */
export const APPLIQUE_STEPS = ['placement', 'tack-down', 'cover'] as const;
export type AppliqueStep = (typeof APPLIQUE_STEPS)[number];

/** How an applique is sewn; each step may be left out. */
export interface AppliqueChoices {
  readonly placement: boolean;
  readonly tackDown: 'zigzag' | 'running' | 'none';
  /** The machine waits after the tack-down for the cloth to be cut away. */
  readonly cut: boolean;
  /** Stitch kind that covers the edge, or `none`. */
  readonly cover: PieceKind;
  /** Share of the cover's width that lies on the cloth. */
  readonly inside: number;
  readonly cloth: ClothChoice;
  /** Its cloth is laid by another object, of which this one is a step; false where that is so. */
  readonly laid?: false;
}

/** An applique of which nothing was said. */
export const USUAL_APPLIQUE: AppliqueChoices = {
  placement: true,
  tackDown: 'zigzag',
  cut: true,
  cover: 'satin',
  inside: 0.5,
  cloth: { look: 'felt', hex: '#d9a441' },
};

/** A line of some width along the edge of what it outlines; it follows when that changes. */
export interface OutlineObject extends ObjectBase {
  readonly kind: 'outline';
  /** The object it outlines; null is everything below it. */
  readonly of: string | null;
  /** Single pieces that it outlines instead of a whole object. */
  readonly pieces?: readonly PieceRef[];
  /** Only the outer edge, gaps up to this wide closed; all edges where nothing is said. */
  readonly closeMm?: number;
  /** The form of a patch that holds everything below, instead of its edges. */
  readonly form?: PatchForm;
  /** What is done at sharp corners of satin; as the whole design has it where nothing is said. */
  readonly corners?: Corners;
  /** Whether it leaves a gap where another piece crosses it; it goes over all of them where nothing is said. */
  readonly gaps?: true;
  /** How it ends at gaps: butted where nothing is said. */
  readonly ends?: EdgeEnds;
  /** The side it begins and ends at; where the way there is shortest if nothing is said. */
  readonly begins?: EdgeBegins;
  /** How the steps of an applique are sewn; as usual where nothing is said. */
  readonly applique?: AppliqueChoices;
  /** Its middle lies this far outside the edge. */
  readonly offsetMm: number;
  readonly widthMm: number;
  /** Stitch kind, or `applique`, whose steps are sewn one by one with stops between. */
  readonly as: PieceKind | 'applique';
  readonly paint: ThreadChoice;
}

/** A text. Its frame is in mm: the origin on the baseline, where the text is aligned, y down. */
export interface LettersObject extends ObjectBase, TextChoices {
  readonly kind: 'letters';
  readonly place: Matrix;
  /** The drawn line it stands on, where `line` says so. */
  readonly path: readonly DrawnPath[];
  /** The shape that line is of: the text follows it, as long as it is there. */
  readonly along?: string;
  readonly as: PieceKind | 'auto';
  readonly paint: ThreadChoice;
}

/** A stitch list, sewn as it is. Its frame is that of the list, in mm. */
export interface StitchesObject extends ObjectBase {
  readonly kind: 'stitches';
  readonly place: Matrix;
  /** Which of the project's sources it is: `picture-1`, `picture-2` … */
  readonly source: string;
  /** What it covers, in its own frame. */
  readonly box: PictureBox;
  /** Threads that take the place of its own, by their number; null keeps its own. */
  readonly threads: readonly (NamedThread | null)[];
}

/** How copies stand: in a ring, in a grid, mirrored at a line beside them, or along a line of its own. Lengths in mm. */
export type CopiesLayout =
  | { readonly kind: 'ring'; readonly count: number; readonly radiusMm: number; readonly turned: boolean }
  | {
      readonly kind: 'grid';
      readonly columns: number;
      readonly rows: number;
      readonly stepXMm: number;
      readonly stepYMm: number;
    }
  | { readonly kind: 'mirror'; readonly axis: 'x' | 'y'; readonly gapMm: number }
  | {
      readonly kind: 'path';
      /** The shape along whose line they stand, evenly; it may be hidden. */
      readonly along: string;
      readonly count: number;
      /** Turned with the line. */
      readonly turned: boolean;
    };

/** Copies of other objects, which follow them. */
export interface CopiesObject extends ObjectBase {
  readonly kind: 'copies';
  readonly of: readonly string[];
  readonly layout: CopiesLayout;
  /** Each is finished before the next is begun; they are sewn thread by thread where nothing is said. */
  readonly oneByOne?: true;
}

export type DesignObject = PictureObject | ShapeObject | OutlineObject | LettersObject | StitchesObject | CopiesObject;

/** What was said of renderings; each keeps what was said of it while another is in use. */
export interface RenderingChoices {
  /** Options that were set, by method. */
  readonly values: Readonly<Record<string, OptionValues>>;
  /** Threads of methods that take theirs from a list. */
  readonly threads: Readonly<Record<string, readonly NamedThread[]>>;
  /** What was said of single threads of a mix. */
  readonly mix: readonly MixDecision[];
  /** Directions drawn on the picture, as shares of its sides: u, v, u, v … */
  readonly strokes: readonly (readonly number[])[];
  /** What was done to lines of a rendering, in the order it was done. */
  readonly lines: readonly LineDecision[];
  /** Changes of a grid of crosses by hand. */
  readonly grid: GridEdits | null;
}

/** A colour of its own, or a thread of a chart. */
export type NamedThread = { readonly hex: string } | { readonly chart: string; readonly code: string };

/** A thread of a mix is left out, or another takes its place, or it is sewn before or after all others, or it is always there. */
export type MixDecision =
  | { readonly kind: 'drop'; readonly hex: string }
  | { readonly kind: 'swap'; readonly hex: string; readonly to: NamedThread }
  | { readonly kind: 'first'; readonly hex: string }
  | { readonly kind: 'last'; readonly hex: string }
  | { readonly kind: 'keep'; readonly thread: NamedThread };

/**
 * Lines of some threads (by their hexes; all where there are none), inside an area (u, v in turn, as shares of the
 * picture's sides; everywhere where it is empty), are deleted, thinned or get another thread; or the area is what matters
 * most, as a face does.
 */
export interface LineDecision {
  readonly kind: 'delete' | 'thin' | 'recolour' | 'favour';
  readonly threads: readonly string[];
  readonly area: readonly number[];
  readonly to?: NamedThread;
}

/** Renderings of which nothing was said. */
export const NO_RENDERING: RenderingChoices = { values: {}, threads: {}, mix: [], strokes: [], lines: [], grid: null };
