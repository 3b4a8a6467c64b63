import { computed, inject, Injectable, signal } from '@angular/core';
import {
  findAgain,
  isInside,
  objectFrame,
  ringsOf,
  type Anchor,
  type Bounds,
  type Design,
  type Look,
  type PieceRef,
  type Points,
  type ToHoop,
} from '@open-kite/core';
import { Conversion } from '../convert/conversion';
import { ProjectStore } from '../project/project-store';
import { PieceNames } from './pieces/piece-names';
import { candidatesIn, refIn } from './pieces/piece-refs';
import type { Box } from './stage/camera';

/** Steps of the work, in order; each is a knot of the Line. */
export const KNOTS = ['picture', 'colours', 'pieces', 'stitches', 'tidy', 'sew'] as const;
export type Knot = (typeof KNOTS)[number];

/** What the stage shows of the stitches; the forecast is the sewn look after the pull. */
export type StageLook = Look | 'forecast';

export type Compare = 'none' | 'lens' | 'split' | 'fade' | 'picture';

/** A place on the picture somebody is asked to point at. */
export interface Picking {
  /** What for, in a few words. */
  readonly label: string;
  readonly take: (anchor: Anchor) => void;
}

/** A chosen piece: what it is called, and where it lay when it was chosen. */
interface Chosen {
  readonly ref: PieceRef;
  readonly rings: readonly Points[];
  /** Frame its object had then. */
  readonly toHoop: ToHoop;
}
/** A piece found again with less of its object's area was taken apart. */
const PART = 0.8;

/** Kinds of objects that are chosen as wholes: what they are made of is not worked on piece by piece. */
const WHOLE: ReadonlySet<string> = new Set(['picture', 'letters', 'stitches']);

/** Sewing speeds for playing, as multiples of a real machine. */
export const SPEEDS = [1, 5, 10, 25, 50, 100, 200] as const;

/** Ways the needle is stepped on the Reel. */
export const STEPS_BY = ['stitch', 'piece', 'thread'] as const;
export type StepBy = (typeof STEPS_BY)[number];
/** Stitches a second of a machine that makes 750 a minute. */
const MACHINE_RATE = 12.5;

/** What is open, selected and shown in the studio; nothing of it belongs to the recipe. */
@Injectable()
export class StudioState {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);

  readonly knot = signal<Knot>('stitches');
  readonly look = signal<StageLook>('sewn');
  readonly compare = signal<Compare>('none');
  /** Piece pointed at, by its index. */
  readonly hovered = signal<number | undefined>(undefined);
  readonly selected = signal<ReadonlySet<number>>(new Set());
  /** Objects that are chosen as wholes, by their ids: pictures, and what has no pieces. */
  readonly wholes = signal<ReadonlySet<string>>(new Set());
  /** Thread pointed at, by its index. */
  readonly hoveredThread = signal<number | undefined>(undefined);
  /** Colour of the picture pointed at, by its index, and perhaps one of its shades. */
  readonly where = signal<{ readonly colour: number; readonly shade?: number } | undefined>(undefined);
  /** How much of the picture shows over the stitches while it is faded in, 0 to 1. */
  readonly fade = signal(0.5);
  readonly picking = signal<Picking | undefined>(undefined);
  /** A guide line is being drawn on the stage for the chosen piece. */
  readonly guiding = signal(false);
  /** The way to the chosen piece is being drawn on the stage. */
  readonly leading = signal(false);
  /** Directions for a rendering are being drawn on the stage. */
  readonly stroking = signal(false);
  /** An area of lines is being drawn on the stage. */
  readonly lassoing = signal(false);
  /** How far away the design is looked at, in metres; 0 is as near as the stage is. */
  readonly distance = signal(0);
  /** The board of try-outs is open. */
  readonly tryOuts = signal(false);
  /** Only the chosen pieces are shown. */
  readonly solo = signal(false);
  /** What the stage is asked to show, in mm, with a mark in its middle. */
  readonly goal = signal<Box | undefined>(undefined);
  /** Row of the stitch list the needle is at; undefined shows the whole design. */
  readonly row = signal<number | undefined>(undefined);
  readonly playing = signal(false);
  readonly speed = signal<(typeof SPEEDS)[number]>(50);
  /** What the needle steps over at once. */
  readonly stepBy = signal<StepBy>('thread');

  readonly rows = computed(() => this.conversion.design()?.stitches.count ?? 0);

  private readonly names = new PieceNames();
  /** What the chosen pieces are called, so that they are found again in a new result. */
  private chosen: readonly Chosen[] = [];
  /** Objects that are to be chosen once they are sewn. */
  private awaited: ReadonlySet<string> = new Set();
  private lastFrame = 0;
  private exact = 0;

  toggleCompare(compare: Compare): void {
    this.compare.set(this.compare() === compare ? 'none' : compare);
  }

  select(piece: number | undefined, add: boolean): void {
    this.awaited = new Set();
    if (!add) this.wholes.set(new Set());
    if (piece === undefined) {
      if (!add) this.choose(new Set());
      return;
    }
    const next = new Set(add ? this.selected() : []);
    const own = this.withGroup(piece);
    if (add && next.has(piece)) own.forEach((i) => next.delete(i));
    else own.forEach((i) => next.add(i));
    this.choose(next);
  }

  /** Chooses one whole object. */
  chooseWhole(id: string): void {
    this.choose(new Set());
    this.wholes.set(new Set([id]));
  }

  /** A piece, and all that are chosen with it: those of its own object, and of objects it is grouped with. */
  private withGroup(piece: number): number[] {
    const pieces = this.conversion.design()?.pieces ?? [];
    const objects = this.store.recipe()?.objects ?? [];
    const own = objects.find(({ id }) => id === pieces[piece]?.object);
    if (!own || own.kind === 'picture') return [piece];
    const { group } = own;
    const ids = new Set(
      objects.flatMap(({ id, group: other }) => (group !== undefined && other === group ? [id] : [])),
    );
    if (group === undefined) return [piece];
    return pieces.flatMap(({ object }, i) => (ids.has(object) ? [i] : []));
  }

  /** Chooses exactly these pieces. */
  selectAll(pieces: Iterable<number>): void {
    this.wholes.set(new Set());
    this.choose(new Set(pieces));
  }

  /** Chooses objects as soon as there are pieces of them. */
  chooseLater(ids: readonly string[]): void {
    this.choose(new Set());
    const objects = this.store.recipe()?.objects ?? [];
    const isWhole = (id: string): boolean => WHOLE.has(objects.find((o) => o.id === id)?.kind ?? '');
    this.wholes.set(new Set(ids.filter(isWhole)));
    this.awaited = new Set(ids.filter((id) => !isWhole(id)));
  }

  /** Finds the chosen pieces in a new result again; those that are gone are let go. */
  findChosen(): void {
    const design = this.conversion.design();
    const awaited = design?.pieces.flatMap(({ object }, i) => (this.awaited.has(object) ? [i] : [])) ?? [];
    if (awaited.length > 0) {
      this.awaited = new Set();
      this.choose(new Set(awaited));
      return;
    }
    if (this.chosen.length === 0 || !design) {
      this.selected.set(new Set());
      return;
    }
    const objects = this.store.recipe()?.objects ?? [];
    const candidates = candidatesIn(design, design.pieces, objects);
    const found = this.chosen.flatMap(({ ref, rings, toHoop }) => {
      const frame = objectFrame(objects, ref.object);
      const at = findAgain(candidates, ref, frame.toHoop, true);
      if (at < 0) return [];
      if (!ref.anchor || candidates[at].share > PART * ref.anchor.share) return [at];
      // A piece that has been taken apart: all that lie where it lay in its object.
      return design.pieces.flatMap(({ object, anchor }, i) => {
        if (i === at) return [i];
        if (object !== ref.object) return [];
        const { u, v } = frame.toFrame(anchor.x, anchor.y);
        const { x, y } = toHoop(u, v);
        return isInside(rings, x, y) ? [i] : [];
      });
    });
    this.selected.set(new Set(found));
  }

  /** Name of a piece of the present design, which it keeps across edits; such as “Beige 2”. */
  nameOf(index: number): string {
    const design = this.conversion.design();
    return design?.pieces[index] ? this.names.nameOf(design, index, this.store.recipe()?.objects ?? []) : '';
  }

  private choose(pieces: ReadonlySet<number>): void {
    const design = this.conversion.design();
    this.chosen = design ? [...pieces].flatMap((i) => this.chosenOf(design, i)) : [];
    this.selected.set(pieces);
  }

  private chosenOf(design: Design, index: number): Chosen[] {
    const piece = design.pieces.at(index);
    if (!piece) return [];
    const objects = this.store.recipe()?.objects ?? [];
    const { toHoop } = objectFrame(objects, piece.object);
    return [{ ref: refIn(design, piece, objects), rings: ringsOf(piece), toHoop }];
  }

  /** Asks the stage to show a part of the hoop. */
  lookAt(box: Box): void {
    this.goal.set({ ...box });
  }

  /** Moves the needle to a row; the end of the list is the whole design. */
  goTo(row: number): void {
    const last = this.rows();
    this.row.set(row >= last ? undefined : Math.max(0, Math.round(row)));
  }

  togglePlay(): void {
    if (this.playing()) {
      this.playing.set(false);
      return;
    }
    if (this.rows() === 0) return;
    this.playing.set(true);
    this.exact = this.row() ?? 0;
    this.lastFrame = 0;
    requestAnimationFrame((now) => this.frame(now));
  }

  private frame(now: number): void {
    if (!this.playing()) return;
    // Scrubbing while it plays goes on from there.
    if (this.row() !== undefined && Math.round(this.exact) !== this.row()) this.exact = this.row() as number;
    const seconds = this.lastFrame === 0 ? 0 : Math.min(0.25, (now - this.lastFrame) / 1000);
    this.lastFrame = now;
    this.exact += seconds * MACHINE_RATE * this.speed();
    if (this.exact >= this.rows()) {
      this.playing.set(false);
      this.row.set(undefined);
      return;
    }
    this.row.set(Math.round(this.exact));
    requestAnimationFrame((next) => this.frame(next));
  }
}

/** A box with some room around it, to be looked at. */
export function around({ left, top, right, bottom }: Bounds): Box {
  const room = Math.max(4, (right - left) * 0.4, (bottom - top) * 0.4);
  return { left: left - room, top: top - room, width: right - left + 2 * room, height: bottom - top + 2 * room };
}
