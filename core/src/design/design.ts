import type { ArtProblem } from '../artwork/artwork.js';
import type { GridChart } from '../cross/grid-chart.js';
import type { PictureBox } from '../picture/frame.js';
import type { SmallArea } from '../pieces/found-pieces.js';
import type { BarePiece, Piece } from '../pieces/piece.js';
import type { OrderCost } from '../sequence/plan-ways.js';
import type { Several } from '../sequence/several.js';
import type { Sewing } from '../sequence/sewing.js';
import type { Anchor } from '../trace/colour-decisions.js';

/** Why nothing is sewn where a colour is. */
export type Bareness = 'ground' | 'chosen' | 'small' | undefined;

/** One of the colours a picture was reduced to. */
export interface ColourShare {
  /** Picture it is of. */
  readonly object: string;
  readonly hex: string;
  /** Share of the picture's area that is not bare from the start. */
  readonly share: number;
  /** Index into the design's threads, -1 where nothing of it is sewn. */
  readonly thread: number;
  readonly bare: Bareness;
  /** Where decisions on it hold on to. */
  readonly anchor: Anchor;
  /** The picture's shades it is made of, most common first. */
  readonly shades: readonly ColourShade[];
  readonly pinned: boolean;
  /** Decisions that hold for it as a whole (pinned, bare, thread), by their place in its picture's list. */
  readonly decisions: readonly number[];
}

/** A shade of the picture inside a colour. */
export interface ColourShade {
  readonly hex: string;
  readonly share: number;
  readonly anchor: Anchor;
}

/** What a picture of a design has become. */
export interface PictureResult {
  readonly object: string;
  /** How it became stitches. */
  readonly method: string;
  /** Where it lies, in mm around the hoop's centre. */
  readonly box: PictureBox;
  /** Number of colours, or of threads of a mix, that the picture itself suggests. */
  readonly suggestedColours: number;
  /** Whether the picture is flat art rather than a photograph. */
  readonly flat: boolean;
  /** Whether a plain ground was found, sewn or not. */
  readonly plainGround: boolean;
  /** Which of the design's colours the plain ground is, -1 where there is none. */
  readonly groundColour: number;
  /** First of its colours among the design's, and their number. */
  readonly colours: readonly [first: number, count: number];
  /** Decisions on colours that found none, by their place in the picture's list. */
  readonly lostDecisions: readonly number[];
  /** Whether its pieces are the shapes of vector artwork. */
  readonly vector: boolean;
  /** Threads it sews with, by their index; those of what lies on it are not among them. */
  readonly threads: readonly number[];
  /** Which of the design's threads fills the ground below its others; none where the cloth is its ground. */
  readonly groundThread?: number;
  /** The grid of crosses it is sewn on. */
  readonly chart?: GridChart;
}

/** Result of a conversion. */
export interface Design extends Sewing {
  /** What a budget of stitches cost, in words; empty where nothing was given up. */
  readonly gaveUp: string;
  /** What became of each picture, lowest first. */
  readonly pictures: readonly PictureResult[];
  readonly pieces: readonly Piece[];
  /** How often it lies in the hoop; pieces are those of the first one. Absent where it lies there once. */
  readonly several?: Several;
  /** Objects that are sewn as stitch lists have them, by their ids. */
  readonly lists?: readonly string[];
  /** Pieces that decisions leave bare. */
  readonly barePieces: readonly BarePiece[];
  /** Decisions on pieces that found none, by their place in the recipe. */
  readonly lostPieceDecisions: readonly number[];
  /** Sewing order as indices of pieces. */
  readonly order: readonly number[];
  /** Angle of each piece's rows in degrees, as it was chosen or planned. */
  readonly rowAngles: readonly number[];
  /** What the order costs between pieces, and what it would cost as the pieces were found. */
  readonly orderCost: OrderCost;
  readonly foundOrderCost: OrderCost;
  /** Colours of all pictures, one picture's after the other's. */
  readonly colours: readonly ColourShare[];
  /** Areas too small to sew. */
  readonly tooSmall: readonly SmallArea[];
  /** What artwork has that could not be taken over as it is, or had to be repaired; places in mm. */
  readonly problems: readonly ArtProblem[];
  /** Points of all boundaries, each shared arc counted once. */
  readonly outlinePoints: number;
}
