import { computed, inject, Injectable, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  curvePath,
  drawnPiece,
  hoopToSource,
  nodeCount,
  type DrawnPath,
  type DrawnPiece,
  type MaskShape,
  type PieceAnchor,
  type ThreadChoice,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { baseOf, PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';

/** What is drawn with: points and curves, freely by hand, the area of a colour, or a standard shape. */
export type DrawTool =
  | { readonly kind: 'points' | 'free' | 'area'; readonly role: DrawnPiece['role'] }
  | { readonly kind: 'shape'; readonly role: DrawnPiece['role']; readonly shape: Exclude<MaskShape, 'free'> }
  /** The points of a drawn piece are moved. */
  | { readonly kind: 'edit'; readonly id: string };

/** Outlines with more points than this are not moved by hand. */
const MOST_EDITED = 1500;

/** Drawing over the picture: tools, and what they add to the recipe. */
@Injectable()
export class DrawActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly pieces = inject(PieceActs);
  private readonly snack = inject(MatSnackBar);

  readonly tool = signal<DrawTool | undefined>(undefined);
  /** Thread of the design to draw with; undefined takes the own colour. */
  readonly thread = signal<number | undefined>(0);
  readonly ownHex = signal('#c8481f');
  readonly lineWidthMm = signal(0.8);

  readonly drawn = computed(() => this.store.recipe()?.pieces.drawn ?? []);
  /** The drawn piece whose points are moved. */
  readonly edited = computed(() => {
    const tool = this.tool();
    return tool?.kind === 'edit' ? this.drawn().find(({ id }) => id === tool.id) : undefined;
  });
  /** The one drawn piece that is chosen. */
  readonly chosen = computed(() => {
    const [index, ...others] = this.state.selected();
    const name = index === undefined ? undefined : this.conversion.design()?.pieces[index]?.drawn;
    return others.length > 0 || name === undefined ? undefined : this.drawn().find(({ id }) => id === baseOf(name));
  });

  take(tool: DrawTool): void {
    const now = this.tool();
    const same = JSON.stringify(now) === JSON.stringify(tool);
    this.tool.set(same ? undefined : tool);
  }

  leave(): void {
    this.tool.set(undefined);
  }

  /** Adds what was drawn; the tool stays, for the next. */
  add(paths: readonly DrawnPath[], paint = this.paint()): void {
    const tool = this.tool();
    const role = tool && 'role' in tool ? tool.role : 'piece';
    const usable = paths.filter(({ nodes }) => nodes.length >= 2);
    if (usable.length === 0) return;
    // A hole is an area: a line around it closes by itself.
    const closed = role === 'hole' ? usable.map((path) => ({ ...path, closed: true })) : usable;
    const made: DrawnPiece = {
      ...drawnPiece(this.nextId(), closed.map(rounded), paint),
      role,
      widthMm: this.lineWidthMm(),
    };
    this.store.change(role === 'hole' ? 'drawn hole' : 'drawn piece', ({ pieces }) => {
      pieces.drawn = [...pieces.drawn, made as Draft<DrawnPiece>];
    });
  }

  /** Takes the outline of what is of one colour at a place of the source picture. */
  async takeArea(u: number, v: number): Promise<void> {
    const recipe = this.store.recipe();
    if (!recipe) return;
    const found = await this.conversion.outlineAt(recipe, u, v);
    if (found) this.add(found.paths);
    else this.say('There is bare cloth at this place: nothing was taken.');
  }

  /** Gives a drawn piece other points. */
  reshape(id: string, paths: readonly DrawnPath[]): void {
    this.change('moved points', id, (piece) => (piece.paths = paths.map(rounded) as Draft<DrawnPath>[]));
  }

  /** Changes something of a drawn piece. */
  change(label: string, id: string, edit: (piece: Draft<DrawnPiece>) => void): void {
    this.store.change(label, ({ pieces }) => {
      const piece = pieces.drawn.find((p) => p.id === id);
      if (piece) edit(piece);
    });
  }

  remove(id: string): void {
    if (this.edited()?.id === id) this.leave();
    this.store.change('drawn piece removed', ({ pieces }) => {
      pieces.drawn = pieces.drawn.filter((piece) => piece.id !== id);
    });
  }

  /** Opens the points of a piece. One that was found becomes the user's own: no trace changes it from now on. */
  editPoints(index: number): void {
    const design = this.conversion.design();
    const placement = this.store.recipe()?.picture;
    const piece = design?.pieces[index];
    if (!design || !piece || !placement) return;
    if (piece.drawn !== undefined) {
      this.tool.set({ kind: 'edit', id: baseOf(piece.drawn) });
      return;
    }
    const isLine = piece.family === 'line' && piece.paths.length === 1;
    const curves = isLine ? piece.paths : piece.outline;
    const points = curves.reduce((sum, curve) => sum + nodeCount(curve), 0);
    if (points > MOST_EDITED) {
      this.say(`This outline has ${points} points, more than can be moved by hand. Loosen the outline first.`);
      return;
    }
    const id = this.nextId();
    const paths = curves.map((curve) => rounded(curvePath(curve, !isLine, (x, y) => hoopToSource(placement, x, y))));
    const paint = this.pieces.choiceOf(piece.thread) ?? { hex: design.threads[piece.thread].hex };
    const made: DrawnPiece = {
      ...drawnPiece(id, paths, paint),
      widthMm: Math.max(0.2, Number(piece.widthMm.toFixed(2))),
      as: piece.chosen || isLine ? piece.kind : 'auto',
      passes: piece.passes,
      replaces: this.pieces.refOf(piece) as PieceAnchor,
    };
    this.state.select(undefined, false);
    this.store.change('points of a piece', ({ pieces }) => {
      pieces.drawn = [...pieces.drawn, made as Draft<DrawnPiece>];
    });
    this.tool.set({ kind: 'edit', id });
  }

  private paint(): ThreadChoice {
    const thread = this.thread();
    return (thread === undefined ? undefined : this.pieces.choiceOf(thread)) ?? { hex: this.ownHex() };
  }

  private nextId(): string {
    const used = this.drawn().map(({ id }) => Number(id.slice(1)) || 0);
    return `d${Math.max(0, ...used) + 1}`;
  }

  private say(text: string): void {
    this.snack.open(text, undefined, { duration: 6000 });
  }
}

/** A millionth of the picture is finer than any needle. */
function rounded({ closed, nodes }: DrawnPath): DrawnPath {
  const round = (v: number): number => Math.round(v * 1e6) / 1e6;
  return {
    closed,
    nodes: nodes.map(([u, v, a, b, c, d]) => [round(u), round(v), round(a), round(b), round(c), round(d)]),
  };
}
