import { inject, Injectable } from '@angular/core';
import {
  finishedSize,
  hoopToSource,
  type ColourShare,
  type Design,
  type DrawnPiece,
  type Piece,
  type PieceAnchor,
  type PieceDecision,
  type PieceKind,
  type PieceRef,
  type ThreadChoice,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';

/** What can be done to single pieces; every act is a decision in the recipe. */
@Injectable()
export class PieceActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);

  /** Leaves pieces bare, by their index; the others keep their shapes. What was drawn by hand goes. */
  leaveBare(pieces: Iterable<number>): void {
    const chosen = this.chosen(pieces);
    if (chosen.length === 0) return;
    this.state.select(undefined, false);
    const drawn = chosen.flatMap(({ drawn: name }) => (name === undefined ? [] : [baseOf(name)]));
    const decisions = chosen
      .filter((piece) => piece.drawn === undefined)
      .map((piece): PieceDecision => ({ kind: 'bare', at: this.refOf(piece) }));
    this.store.change(chosen.length === 1 ? 'piece left bare' : 'pieces left bare', ({ pieces: p }) => {
      p.decisions = [...p.decisions, ...decisions];
      p.drawn = p.drawn.filter(({ id }) => !drawn.includes(id));
    });
  }

  /** Sews pieces in a kind the user chose; `auto` goes by their width again. */
  sewAs(pieces: Iterable<number>, as: PieceKind | 'auto', passes = 0): void {
    this.decide('stitch kind', pieces, 'sew', (at) => (as === 'auto' ? undefined : { kind: 'sew', at, as, passes }), {
      drawn: (piece) => {
        piece.as = as;
        piece.passes = passes as DrawnPiece['passes'];
      },
    });
  }

  /** Gives pieces the thread that another colour of the design has. */
  threadTo(pieces: Iterable<number>, thread: number): void {
    const to = this.choiceOf(thread);
    if (!to) return;
    this.decide('thread of pieces', pieces, 'thread', (at) => ({ kind: 'thread', at, to }), {
      drawn: (piece) => (piece.paint = to),
      sets: ({ thread: now }) => now !== thread,
    });
  }

  /** What a thread of the design is called in decisions. */
  choiceOf(thread: number): ThreadChoice | undefined {
    const design = this.conversion.design();
    const colour = design && colourOfThread(design, thread);
    if (colour) return { like: colour.anchor };
    const own = design?.threads[thread];
    if (!own) return undefined;
    return own.chart === 'own' ? { hex: own.hex } : { chart: own.chart, code: own.code };
  }

  /** Sews pieces, in the order they have now, just before another one, or first or last. */
  orderBefore(pieces: Iterable<number>, before: number | 'first' | 'last'): void {
    const design = this.ready();
    if (!design) return;
    const list = [...pieces].filter((i) => i !== before && i < design.pieces.length);
    const place = new Map(design.order.map((piece, i) => [piece, i]));
    list.sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0));
    if (before === 'first') list.reverse();
    const goal = typeof before === 'number' ? this.refOf(design.pieces[before]) : before;
    const decisions = list.map((i): PieceDecision => ({
      kind: 'order',
      at: this.refOf(design.pieces[i]),
      before: goal,
    }));
    if (decisions.length > 0) this.add('sewing order', decisions);
  }

  /** Moves pieces one place up or down in the order. */
  step(pieces: ReadonlySet<number>, by: -1 | 1): void {
    const order = this.ready()?.order ?? [];
    const places = order.flatMap((piece, i) => (pieces.has(piece) ? [i] : []));
    if (places.length === 0) return;
    if (by < 0) {
      const goal = places[0] - 1;
      this.orderBefore(pieces, goal <= 0 ? 'first' : order[goal]);
    } else {
      const goal = places[places.length - 1] + 2;
      this.orderBefore(pieces, goal >= order.length ? 'last' : order[goal]);
    }
  }

  /** Makes one piece of several; the largest gives its thread. */
  join(pieces: Iterable<number>): void {
    const chosen = this.chosen(pieces).sort((a, b) => b.areaMm2 - a.areaMm2);
    const [into, ...others] = chosen;
    if (!into || others.length === 0) return;
    const to = this.refOf(into);
    this.state.select(undefined, false);
    this.add(
      'combined pieces',
      others.map((piece): PieceDecision => ({ kind: 'join', at: this.refOf(piece), to })),
    );
  }

  /** Takes pieces apart into what does not touch, nets of lines into their branches. */
  apart(pieces: Iterable<number>): void {
    const chosen = this.chosen(pieces);
    if (chosen.length === 0) return;
    this.state.select(undefined, false);
    this.add(
      'broken apart',
      chosen.map((piece): PieceDecision => ({ kind: 'apart', at: this.refOf(piece) })),
    );
  }

  /** Cuts out of pieces what lies above them, or keeps them whole below. */
  setHidden(pieces: Iterable<number>, cut: boolean): void {
    this.decide(cut ? 'cut out what lies above' : 'kept whole below', pieces, 'hidden', (at) => ({
      kind: 'hidden',
      at,
      cut,
    }));
  }

  /** Sews an area that is too small, at a place in mm. */
  keep(small: { readonly x: number; readonly y: number; readonly hex: string; readonly areaMm2: number }): void {
    const at = this.anchorAt(small.x, small.y, small.hex, small.areaMm2);
    if (at) this.add('small piece sewn', [{ kind: 'keep', at }]);
  }

  /** Takes decisions back, by their place in the recipe. */
  forget(label: string, indices: readonly number[]): void {
    this.store.change(label, ({ pieces }) => {
      pieces.decisions = pieces.decisions.filter((_, i) => !indices.includes(i));
    });
  }

  /** What decisions call a piece. */
  refOf(piece: Piece): PieceRef {
    if (piece.drawn !== undefined) return { drawn: piece.drawn };
    const hex = this.conversion.design()?.colours[piece.colour]?.anchor.hex ?? '#000000';
    return this.anchorAt(piece.anchor.x, piece.anchor.y, hex, piece.areaMm2) ?? { hex, u: 0, v: 0, share: 0 };
  }

  private anchorAt(x: number, y: number, hex: string, areaMm2: number): PieceAnchor | undefined {
    const placement = this.store.recipe()?.picture;
    if (!placement) return undefined;
    const { widthMm, heightMm } = finishedSize(placement);
    const { u, v } = hoopToSource(placement, x, y);
    return { hex, u, v, share: Math.min(1, areaMm2 / (widthMm * heightMm)) };
  }

  /** The design, unless it is a rough one whose pieces are about to be replaced. */
  private ready() {
    return this.conversion.rough() ? undefined : this.conversion.design();
  }

  private chosen(pieces: Iterable<number>): Piece[] {
    const all = this.ready()?.pieces ?? [];
    return [...pieces].filter((i) => i < all.length).map((i) => all[i]);
  }

  private add(label: string, decisions: readonly PieceDecision[]): void {
    this.store.change(label, ({ pieces }) => {
      pieces.decisions = [...pieces.decisions, ...decisions];
    });
  }

  /**
   * Says the same of several pieces. What was said of them before in this regard is replaced; drawn pieces carry it
   * themselves.
   */
  private decide(
    label: string,
    pieces: Iterable<number>,
    kind: PieceDecision['kind'],
    make: (at: PieceRef) => PieceDecision | undefined,
    how: { drawn?: (piece: Draft<DrawnPiece>) => void; sets?: (piece: Piece) => boolean } = {},
  ): void {
    const chosen = this.chosen(pieces).filter(how.sets ?? (() => true));
    if (chosen.length === 0) return;
    const { drawn: change } = how;
    const names = change ? chosen.flatMap(({ drawn }) => (drawn === undefined ? [] : [baseOf(drawn)])) : [];
    const others = chosen.filter(({ drawn }) => !change || drawn === undefined);
    const said = new Set(others.flatMap(({ decisions }) => decisions));
    const made = others.map((piece) => make(this.refOf(piece))).filter((decision) => decision !== undefined);
    this.store.change(label, (recipe) => {
      const { pieces: p } = recipe;
      p.decisions = [...p.decisions.filter((d, i) => d.kind !== kind || !said.has(i)), ...made];
      for (const piece of p.drawn) if (change && names.includes(piece.id)) change(piece);
    });
  }
}

/** The colour that speaks for a thread: of several that share it, the largest. */
export function colourOfThread(design: Design, thread: number): ColourShare | undefined {
  return design.colours
    .filter((colour) => colour.thread === thread)
    .reduce<ColourShare | undefined>((most, c) => (most && most.share >= c.share ? most : c), undefined);
}

/** Name of a drawn piece without the number of its copy. */
export const baseOf = (drawn: string): string => drawn.split('/')[0];
