import { inject, Injectable } from '@angular/core';
import {
  ciede2000,
  cornersAlong,
  flatten,
  fromHex,
  hoopToSource,
  signedArea,
  lengthOf,
  inverseOf,
  isSameRef,
  mapPoint,
  movedFrame,
  movePieces,
  objectFrame,
  pathCurve,
  PIECES_METHOD,
  renderingsBelow,
  rgbToLab,
  wholeMm2Of,
  type ColourShare,
  type Design,
  type GradientChoice,
  type HandRow,
  type Piece,
  type PieceAnchor,
  type PieceDecision,
  type PieceKind,
  type PieceRef,
  type StitchDecision,
  type ShapeObject,
  type ThreadChoice,
  type Curve,
} from '@open-kite/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { afterRough } from './after-rough';
import { refIn } from './piece-refs';
import { removeObjects } from '../objects/object-acts';
import { StudioState } from '../studio-state';

/** Of a share of the frame, or of a millimetre: corners are seen as well from coarser. */
const RING_FLATNESS = 0.01;

/** A thread this near to a colour (CIEDE2000) stands for it: no further thread change for what nobody tells apart. */
const SAME_COLOUR = 6;

/** What can be done to single pieces; every act is a decision in the recipe. */
@Injectable()
export class PieceActs {
  private readonly conversion = inject(Conversion);
  private readonly snack = inject(MatSnackBar);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly waits = afterRough();

  /** Leaves pieces bare, by their index; the others keep their shapes. What was drawn by hand goes. */
  leaveBare(pieces: Iterable<number>): void {
    if (this.waits(pieces, (again) => this.leaveBare(again))) return;
    const chosen = this.chosen(pieces);
    if (chosen.length === 0) return;
    this.state.select(undefined, false);
    const own = chosen.filter(({ origin }) => origin === 'drawn' || origin === 'outline').map(({ object }) => object);
    const decisions = chosen
      .filter(({ object }) => !own.includes(object))
      .map((piece): PieceDecision => ({ kind: 'bare', at: this.refOf(piece) }));
    this.store.change(chosen.length === 1 ? 'piece left bare' : 'pieces left bare', (recipe) => {
      recipe.decisions.push(...(decisions as typeof recipe.decisions));
      removeObjects(recipe, own);
    });
  }

  /** Sews pieces in a kind the user chose; `auto` goes by their width again. */
  sewAs(pieces: Iterable<number>, as: PieceKind | 'auto', passes = 0): void {
    this.decide('stitch kind', pieces, 'sew', (at) => (as === 'auto' ? undefined : { kind: 'sew', at, as, passes }), {
      drawn: (piece) => {
        piece.as = as;
        piece.passes = passes;
      },
    });
  }

  /** Sets an option of how pieces are sewn; `undefined` follows the design again. */
  setOption(
    pieces: Iterable<number>,
    name: string,
    value: number | string | undefined,
    label = 'stitch setting',
  ): void {
    this.sayOfStitches(label, pieces, 'stitch', (before, at) => {
      const said = before?.kind === 'stitch' ? Object.entries(before.set) : [];
      const rest = Object.fromEntries(said.filter(([key]) => key !== name));
      const set = value === undefined ? rest : { ...rest, [name]: value };
      return Object.keys(set).length > 0 ? { kind: 'stitch', at, set } : undefined;
    });
  }

  /** Draws the lines a piece's rows follow, in mm; none at all lets them go. */
  setGuides(piece: number, lines: readonly (readonly number[])[]): void {
    const frame = this.frameOf(piece);
    if (!frame) return;
    const inSource = lines.map((line) => {
      const out: number[] = [];
      for (let i = 0; i + 1 < line.length; i += 2) {
        const { u, v } = frame.toFrame(line[i], line[i + 1]);
        out.push(u, v);
      }
      return out;
    });
    this.sayOfStitches('guide lines', [piece], 'guides', (_, at) =>
      inSource.length > 0 ? { kind: 'guides', at, lines: inSource } : undefined,
    );
  }

  /** Says where the needle comes into a piece or leaves it, in mm; `undefined` leaves it to the planning. */
  setEnd(piece: number, end: 'entry' | 'exit', place: { readonly x: number; readonly y: number } | undefined): void {
    const frame = this.frameOf(piece);
    if (!frame) return;
    this.sayOfStitches(end, [piece], end, (_, at) =>
      place ? { kind: end, at, ...frame.toFrame(place.x, place.y) } : undefined,
    );
  }

  /** Cuts the thread on the way to pieces, keeps it whole, or leaves it to the planning. */
  connect(pieces: Iterable<number>, how: 'cut' | 'keep' | undefined): void {
    this.sayOfStitches('way to a piece', pieces, 'connect', (_, at) =>
      how ? { kind: 'connect', at, how, line: [] } : undefined,
    );
  }

  /** Leads the way to a piece along a line, in mm: x and y in turn. */
  lead(piece: number, line: readonly number[]): void {
    const frame = this.frameOf(piece);
    if (!frame) return;
    const own: number[] = [];
    for (let i = 0; i + 1 < line.length; i += 2) {
      const { u, v } = frame.toFrame(line[i], line[i + 1]);
      own.push(u, v);
    }
    this.sayOfStitches('way to a piece', [piece], 'connect', (_, at) => ({
      kind: 'connect',
      at,
      how: 'lead',
      line: own,
    }));
  }

  /**
   * Sets the needle points of a piece by hand, in mm; `undefined` lets it sew itself again. Its ties are among the points
   * from then on.
   */
  setRows(piece: number, rows: readonly HandRow[] | undefined, label = 'stitches by hand'): void {
    const frame = this.frameOf(piece);
    if (!frame) return;
    const numbers = (rows ?? []).flatMap(([x, y, command]) => {
      const { u, v } = frame.toFrame(x, y);
      return [Number(u.toFixed(7)), Number(v.toFixed(7)), command];
    });
    const had = this.conversion.design()?.pieces.at(piece)?.choices.rows !== undefined;
    this.sayOfStitches(label, [piece], 'rows', (_, at) => (rows ? { kind: 'rows', at, rows: numbers } : undefined));
    if (!had || !rows) this.setOption([piece], 'tie', rows ? 'none' : undefined, label);
  }

  /** Lets the machine wait for the operator before pieces. */
  setStop(pieces: Iterable<number>, stop: boolean): void {
    this.sayOfStitches(stop ? 'stop' : 'no stop', pieces, 'stop', (_, at) =>
      stop ? { kind: 'stop', at, stop } : undefined,
    );
  }

  /** Where pieces are held in the order: first, last, or nowhere. */
  lockOf(piece: Piece): 'first' | 'last' | undefined {
    const decisions = this.store.view()?.decisions ?? [];
    const said = piece.decisions.map((i) => decisions[i]).findLast((d) => d?.kind === 'order');
    return said?.kind === 'order' && typeof said.before === 'string' ? said.before : undefined;
  }

  /** Sews pieces first or last of all, whatever else changes, or lets them go again. */
  lock(pieces: Iterable<number>, to: 'first' | 'last' | undefined): void {
    if (this.waits(pieces, (again) => this.lock(again, to))) return;
    const list = [...pieces];
    const said = new Set(this.chosen(list).flatMap(({ decisions }) => decisions));
    this.store.change('sewing order', (recipe) => {
      recipe.decisions = recipe.decisions.filter((d, i) => d.kind !== 'order' || !said.has(i));
    });
    if (to) this.orderBefore(list, to);
  }

  /** Gives pieces the thread that another colour of the design has. */
  threadTo(pieces: Iterable<number>, thread: number): void {
    const to = this.choiceOf(thread);
    const other = [...pieces].filter((i) => this.conversion.design()?.pieces.at(i)?.thread !== thread);
    if (to) this.paintWith(other, to);
  }

  /** Sews pieces with a thread of the design or of a chart, or in any colour. */
  paintWith(pieces: Iterable<number>, to: ThreadChoice): void {
    this.decide('thread of pieces', pieces, 'thread', (at) => ({ kind: 'thread', at, to }), {
      drawn: (piece) => (piece.paint = to),
    });
  }

  /** Gives pieces the colour the picture has where they lie: found ones their own again, drawn ones that below them. */
  async paintAsPicture(pieces: Iterable<number>): Promise<void> {
    if (this.waits(pieces, (again) => void this.paintAsPicture(again))) return;
    const placement = this.store.view()?.picture;
    if (!placement) return;
    const list = [...pieces];
    const paints = new Map<string, ThreadChoice>();
    for (const { object, origin, anchor } of this.chosen(list)) {
      if (origin !== 'drawn') continue;
      const { u, v } = hoopToSource(placement, anchor.x, anchor.y);
      const found = await this.conversion.sample(u, v);
      if (found) paints.set(object, this.nearest(found.hex));
    }
    this.decide('thread as in the picture', list, 'thread', () => undefined, {
      drawn: (piece) => (piece.paint = paints.get(piece.id) ?? piece.paint),
    });
  }

  /** The thread of the design that is of nearly a colour; where there is none, the colour itself. */
  nearest(hex: string): ThreadChoice {
    const lab = rgbToLab(fromHex(hex));
    const threads = this.conversion.design()?.threads ?? [];
    const offs = threads.map((thread) => ciede2000(lab, rgbToLab(fromHex(thread.hex))));
    const least = Math.min(...offs);
    const near = least <= SAME_COLOUR ? this.choiceOf(offs.indexOf(least)) : undefined;
    return near ?? { hex };
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
    if (typeof before === 'number') {
      if (this.waits([before, ...pieces], ([goal, ...again]) => goal >= 0 && this.orderBefore(again, goal))) return;
    } else if (this.waits(pieces, (again) => this.orderBefore(again, before))) return;
    const design = this.conversion.design();
    if (!design) return;
    const list = [...new Set(pieces)].filter((i) => i !== before && i in design.pieces);
    const place = new Map(design.order.map((piece, i) => [piece, i]));
    list.sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0));
    if (before === 'first') list.reverse();
    const goal = typeof before === 'number' ? this.refOf(design.pieces[before]) : before;
    const refused = this.refusal(design, list, before);
    if (refused) {
      this.say(refused);
      return;
    }
    const decisions = list.map((i): PieceDecision => ({
      kind: 'order',
      at: this.refOf(design.pieces[i]),
      before: goal,
    }));
    if (decisions.length > 0) this.add('sewing order', decisions);
  }

  say(text: string): void {
    this.snack.open(text, undefined, { duration: 6000 });
  }

  /** Why a change of the order would change nothing, in words; undefined where it does. */
  private refusal(design: Design, list: readonly number[], before: number | 'first' | 'last'): string | undefined {
    const renderings = new Set(
      design.pictures.flatMap(({ object, method }) => (method === PIECES_METHOD ? [] : [object])),
    );
    const below = renderingsBelow(this.store.recipe()?.objects ?? [], renderings);
    const heights = list.map((i) => below[design.pieces[i].object]);
    const goal = typeof before === 'number' ? below[design.pieces[before].object] : undefined;
    if (goal !== undefined && heights.some((height) => height !== goal))
      return 'What lies above a painted picture is sewn after it. Move its object lower in the Tray.';
    const moved = movePieces(
      design.order,
      list.map((piece) => ({ piece, before })),
    );
    return moved.every((piece, i) => piece === design.order[i]) ? 'It is sewn at this place already.' : undefined;
  }

  /** Moves pieces one place up or down in the order. */
  step(pieces: ReadonlySet<number>, by: -1 | 1): void {
    if (this.waits(pieces, (again) => this.step(new Set(again), by))) return;
    const order = this.conversion.design()?.order ?? [];
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
    if (this.waits(pieces, (again) => this.join(again))) return;
    const chosen = this.chosen(pieces).sort((a, b) => b.areaMm2 - a.areaMm2);
    const [into, ...others] = chosen;
    if (!into || others.length === 0) return;
    const to = this.refOf(into);
    this.add(
      'combined pieces',
      others.map((piece): PieceDecision => ({ kind: 'join', at: this.refOf(piece), to })),
    );
  }

  /** Takes pieces apart into what does not touch, nets of lines into their branches. */
  apart(pieces: Iterable<number>): void {
    if (this.waits(pieces, (again) => this.apart(again))) return;
    const chosen = this.chosen(pieces);
    const breakable = chosen.filter((piece) => !this.isPlainRing(piece));
    if (breakable.length === 0) {
      if (chosen.length > 0) this.say('A ring or a disc without a corner has no place to break at: cut it open first.');
      return;
    }
    this.add(
      'broken apart',
      breakable.map((piece): PieceDecision => ({ kind: 'apart', at: this.refOf(piece) })),
    );
  }

  /** Whether a piece goes round without any corner: a line of the user's own, or a disc or a ring that was found. */
  private isPlainRing({ object, outline }: Piece): boolean {
    const shape = this.store.recipe()?.objects.find(({ id }) => id === object);
    if (shape?.kind !== 'shape') return outline.length > 0 && outline.length <= 2 && outline.every(isRound);
    if (shape.paths.length !== 1) return false;
    const run = flatten(
      pathCurve(shape.paths[0], (x, y) => ({ x, y })),
      RING_FLATNESS,
    );
    const comesBack = shape.paths[0].closed || (run[0] === run.at(-2) && run[1] === run.at(-1));
    return comesBack && cornersAlong(run).length === 0;
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
  keep(small: {
    readonly object: string;
    readonly x: number;
    readonly y: number;
    readonly hex: string;
    readonly areaMm2: number;
  }): void {
    const at = this.anchorAt(small.object, small.x, small.y, small.hex, small.areaMm2);
    if (at) this.add('small piece sewn', [{ kind: 'keep', at: { object: small.object, anchor: at } }]);
  }

  /** Takes decisions back, by their place in the recipe. */
  forget(label: string, indices: readonly number[]): void {
    this.store.change(label, (recipe) => {
      recipe.decisions = recipe.decisions.filter((_, i) => !indices.includes(i));
    });
  }

  /** Lays a gradient over pieces, or takes it away where it is null. */
  setGradient(label: string, pieces: Iterable<number>, fill: GradientChoice | null): void {
    this.sayOfStitches(label, pieces, 'gradient', (_, at) => ({ kind: 'gradient', at, fill }));
  }

  /** What decisions call a piece; of the threads of a gradient the first stands for all. */
  refOf(part: Piece): PieceRef {
    const design = this.conversion.design();
    const piece = design?.pieces.at(part.partOf) ?? part;
    return refIn({ colours: design?.colours ?? [] }, piece, this.store.view()?.objects ?? []);
  }

  private anchorAt(object: string, x: number, y: number, hex: string, areaMm2: number): PieceAnchor {
    const objects = this.store.view()?.objects ?? [];
    const { u, v } = objectFrame(objects, object).toFrame(x, y);
    return { hex, u, v, share: Math.min(1, areaMm2 / wholeMm2Of(objects, object)) };
  }

  /** Frame of the object a piece is of. */
  private frameOf(piece: number) {
    const found = this.conversion.design()?.pieces.at(piece);
    if (!found) return undefined;
    const frame = objectFrame(this.store.view()?.objects ?? [], found.object);
    if (!found.moved) return frame;
    const back = inverseOf(found.moved);
    return {
      ...frame,
      toHoop: movedFrame(frame.toHoop, found.moved),
      toFrame: (x: number, y: number) => frame.toFrame(...mapPoint(back, x, y)),
    };
  }

  private chosen(pieces: Iterable<number>): Piece[] {
    const all = this.conversion.design()?.pieces ?? [];
    return [...new Set(pieces)].filter((i) => i in all).map((i) => all[i]);
  }

  /** Puts one decision on how each of some pieces is sewn in the place of the one before. */
  private sayOfStitches(
    label: string,
    pieces: Iterable<number>,
    kind: StitchDecision['kind'] | 'gradient',
    make: (before: PieceDecision | undefined, at: PieceRef) => PieceDecision | undefined,
  ): void {
    if (this.waits(pieces, (again) => this.sayOfStitches(label, again, kind, make))) return;
    const chosen = this.chosen(pieces);
    if (chosen.length === 0) return;
    this.store.change(label, (recipe) => {
      const list: (PieceDecision | undefined)[] = [...recipe.decisions] as PieceDecision[];
      for (const piece of chosen) {
        const ref = this.refOf(piece);
        // The design may be older than the recipe while something is dragged: what was said just now counts as well.
        const at = list.findLastIndex((d) => d?.kind === kind && isSameRef(d.at, ref));
        const made = make(list[at], ref);
        if (at >= 0) list[at] = made;
        else if (made) list.push(made);
      }
      recipe.decisions = list.filter((d) => d !== undefined);
    });
  }

  private add(label: string, decisions: readonly PieceDecision[]): void {
    this.store.change(label, (recipe) => {
      recipe.decisions.push(...(decisions as typeof recipe.decisions));
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
    how: { drawn?: (piece: Draft<ShapeObject>) => void; sets?: (piece: Piece) => boolean } = {},
  ): void {
    if (this.waits(pieces, (again) => this.decide(label, again, kind, make, how))) return;
    const chosen = this.chosen(pieces).filter(how.sets ?? (() => true));
    if (chosen.length === 0) return;
    const { drawn: change } = how;
    const shapes = this.store.recipe()?.objects ?? [];
    const isShape = (id: string): boolean => shapes.some((object) => object.id === id && object.kind === 'shape');
    const own = chosen
      .filter(({ origin, object }) => change !== undefined && origin === 'drawn' && isShape(object))
      .map(({ object }) => object);
    const others = chosen.filter(({ object }) => !own.includes(object));
    const said = new Set(others.flatMap(({ decisions }) => decisions));
    const made = others.map((piece) => make(this.refOf(piece))).filter((decision) => decision !== undefined);
    this.store.change(label, (recipe) => {
      const kept = recipe.decisions.filter((d, i) => d.kind !== kind || !said.has(i));
      recipe.decisions = [...kept, ...(made as typeof kept)];
      for (const object of recipe.objects) {
        if (object.kind === 'shape' && own.includes(object.id)) change?.(object);
      }
    });
  }
}

/** The colour that speaks for a thread: of several that share it, the largest. */
export function colourOfThread(design: Design, thread: number): ColourShare | undefined {
  return design.colours
    .filter((colour) => colour.thread === thread)
    .reduce<ColourShare | undefined>((most, c) => (most && most.share >= c.share ? most : c), undefined);
}

/** A circle holds as much as its way around allows; a shape that holds so much of that has no arms to break off. */
const ROUND_SHARE = 0.85;

/** Whether an outline is round, and has no corner. */
function isRound(outline: Curve): boolean {
  const run = flatten(outline, RING_FLATNESS);
  const way = lengthOf(run);
  const isFull = 4 * Math.PI * Math.abs(signedArea(run)) > ROUND_SHARE * way * way;
  return isFull && cornersAlong(run).length === 0;
}
