import type { ArtProblem } from './artwork/artwork.js';
import type { GridChart } from './cross/grid-chart.js';
import type { SmallArea } from './pieces/find-pieces.js';
import type { BarePiece, Piece } from './pieces/piece.js';
import type { OrderCost } from './sequence/plan-ways.js';
import type { StitchList } from './sequence/stitch-list.js';
import type { Anchor } from './trace/colour-decisions.js';

/** Where the whole prepared picture lies, in mm around the hoop's centre. */
export interface PictureBox {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** A thread of a design. */
export interface DesignThread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
  /** Chart it comes from; `own` for the picture's own colour. */
  readonly chart: string;
  /** CIEDE2000 between the picture's colour and the thread. */
  readonly deltaE: number;
}

/** What every form of a design holds: enough to sew, draw and measure it. */
export interface Sewing {
  readonly fabric: { readonly id: string; readonly hex: string };
  readonly picture?: PictureBox;
  readonly threads: readonly DesignThread[];
  readonly stitches: StitchList;
  /** Names of the pieces the stitch list counts from 0. */
  readonly pieceIds: readonly string[];
}

/** Why nothing is sewn where a colour is. */
export type Bareness = 'ground' | 'chosen' | 'small' | undefined;

/** One of the colours the picture was reduced to. */
export interface ColourShare {
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
  /** Decisions that hold for it as a whole (pinned, bare, thread), by their place in the recipe. */
  readonly decisions: readonly number[];
}

/** A shade of the picture inside a colour. */
export interface ColourShade {
  readonly hex: string;
  readonly share: number;
  readonly anchor: Anchor;
}

/** Result of a conversion. */
export interface Design extends Sewing {
  /** How the picture became stitches. */
  readonly method: string;
  /** What a budget of stitches cost, in words; empty where nothing was given up. */
  readonly gaveUp: string;
  readonly pieces: readonly Piece[];
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
  readonly colours: readonly ColourShare[];
  /** Number of colours the picture itself suggests. */
  readonly suggestedColours: number;
  /** Whether the picture is flat art rather than a photograph. */
  readonly flat: boolean;
  /** Whether a plain ground was found, sewn or not. */
  readonly plainGround: boolean;
  /** Which of the colours the plain ground is, -1 where there is none. */
  readonly groundColour: number;
  /** Decisions on colours that found none, by their place in the recipe. */
  readonly lostDecisions: readonly number[];
  /** Areas too small to sew. */
  readonly tooSmall: readonly SmallArea[];
  /** Whether its pieces are the shapes of vector artwork. */
  readonly vector: boolean;
  /** What the artwork has that could not be taken over as it is, or had to be repaired; places in mm. */
  readonly problems: readonly ArtProblem[];
  /** Points of all boundaries, each shared arc counted once. */
  readonly outlinePoints: number;
  /** The grid of crosses it is sewn on. */
  readonly chart?: GridChart;
}
