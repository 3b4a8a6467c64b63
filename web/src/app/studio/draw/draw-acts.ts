import { computed, inject, Injectable, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  isSameRef,
  newShape,
  nodeCount,
  objectFrame,
  rounded,
  shapeOfPiece,
  type DrawnPath,
  type MaskShape,
  type PieceRef,
  type ShapeObject,
  type ThreadChoice,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { removeObjects } from '../objects/object-acts';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { freshShapeId } from '../../shared/fresh-name';

/** What is drawn with: points and curves, freely by hand, the area of a colour, or a standard shape. */
export type DrawTool =
  | { readonly kind: 'points' | 'free' | 'area'; readonly role: ShapeObject['role'] }
  | { readonly kind: 'shape'; readonly role: ShapeObject['role']; readonly shape: Exclude<MaskShape, 'free'> }
  /** The points of a drawn piece are moved. */
  | { readonly kind: 'edit'; readonly id: string };

/** The first line on bare cloth, where no thread is chosen yet. */
const FIRST_HEX = '#c8481f';

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
  /** What is drawn with; `here` takes the colour the picture has where a drawing begins. */
  readonly thread = signal<ThreadChoice | 'here'>('here');
  /** How near in colour is what hangs together with a place that was pointed at, as CIEDE2000; 0 takes an area of the design. */
  readonly tolerance = signal(0);
  readonly lineWidthMm = signal(0.8);

  /** Shapes and lines of the user's own. */
  readonly shapes = computed(() =>
    (this.store.view()?.objects ?? []).filter((object): object is ShapeObject => object.kind === 'shape'),
  );
  /** The drawn piece whose points are moved. */
  readonly edited = computed(() => {
    const tool = this.tool();
    return tool?.kind === 'edit' ? this.shapes().find(({ id }) => id === tool.id) : undefined;
  });
  /** The one drawn piece that is chosen. */
  readonly chosen = computed(() => {
    const [index, ...others] = this.state.selected();
    const id = index === undefined ? undefined : this.conversion.design()?.pieces[index]?.object;
    return others.length > 0 ? undefined : this.shapes().find((shape) => shape.id === id);
  });

  take(tool: DrawTool): void {
    const now = this.tool();
    const same = JSON.stringify(now) === JSON.stringify(tool);
    this.tool.set(same ? undefined : tool);
  }

  leave(): void {
    this.tool.set(undefined);
  }

  /** Adds what was drawn, in the colour the picture has where it begins where that is wished. */
  async drawn(paths: readonly DrawnPath[]): Promise<void> {
    const tool = this.tool();
    const first = paths.at(0)?.nodes.at(0);
    const paint = first && (await this.paintAt(first[0], first[1]));
    // Another tool meanwhile: what was drawn is still what it was drawn as.
    this.add(paths, paint, tool);
  }

  /** Adds what was drawn; the tool stays, for the next. */
  add(paths: readonly DrawnPath[], paint: ThreadChoice = this.paint(), tool = this.tool()): void {
    const role = tool && 'role' in tool ? tool.role : 'piece';
    const usable = paths.filter(({ nodes }) => nodes.length >= 2);
    if (usable.length === 0) return;
    // A hole is an area: a line around it closes by itself.
    const closed = role === 'hole' ? usable.map((path) => ({ ...path, closed: true })) : usable;
    const on = this.store.object()?.id ?? null;
    const made = {
      ...newShape(freshShapeId(this.store.view()?.objects), on, closed.map(rounded), paint),
      role,
      widthMm: this.lineWidthMm(),
    };
    this.store.change(role === 'hole' ? 'drawn hole' : 'drawn piece', ({ objects }) => {
      objects.push(made as Draft<ShapeObject>);
    });
  }

  /** Takes the outline of what is of one colour at a place of the source picture. */
  async takeArea(u: number, v: number): Promise<void> {
    const recipe = this.store.recipe();
    const picture = this.store.object()?.id;
    if (!recipe || picture === undefined) return;
    const tool = this.tool();
    const found = await this.conversion.outlineAt(recipe, picture, u, v, this.tolerance());
    if (found)
      this.add(found.paths, this.thread() === 'here' ? this.pieces.nearest(found.like.hex) : this.paint(), tool);
    else this.say('There is bare cloth at this place: nothing was taken.');
  }

  /** Gives a drawn piece other points. */
  reshape(id: string, paths: readonly DrawnPath[]): void {
    this.change('moved points', id, (piece) => (piece.paths = paths.map(rounded) as Draft<DrawnPath>[]));
  }

  /** Changes something of a drawn piece. */
  change(label: string, id: string, edit: (piece: Draft<ShapeObject>) => void): void {
    this.store.change(label, ({ objects }) => {
      const shape = objects.find((object) => object.id === id);
      if (shape?.kind === 'shape') edit(shape);
    });
  }

  /** Millimetres a unit of a shape's frame is wide on the cloth. */
  unitMm(id: string): number {
    return objectFrame(this.store.view()?.objects ?? [], id).unitMm;
  }

  remove(id: string): void {
    if (this.edited()?.id === id) this.leave();
    this.store.change('drawn piece removed', (recipe) => removeObjects(recipe, [id]));
  }

  /** Opens the points of a piece. One that was found becomes the user's own: no trace changes it from now on. */
  editPoints(index: number): void {
    const design = this.conversion.design();
    const view = this.store.view();
    const piece = design?.pieces[index];
    if (!design || !piece || !view) return;
    if (piece.origin === 'drawn' && !this.shapes().some(({ id }) => id === piece.object)) {
      this.say('Letters stay text: change what they say, or their font.');
      return;
    }
    if (piece.origin === 'drawn') {
      this.tool.set({ kind: 'edit', id: piece.object });
      return;
    }
    if (piece.origin === 'outline') {
      this.say('An outline follows what it outlines: its points are those of that.');
      return;
    }
    const isLine = piece.family === 'line' && piece.paths.length === 1;
    const curves = isLine ? piece.paths : piece.outline;
    const points = curves.reduce((sum, curve) => sum + nodeCount(curve), 0);
    if (points > MOST_EDITED) {
      this.say(`This outline has ${points} points, more than can be moved by hand. Loosen the outline first.`);
      return;
    }
    const { toFrame } = objectFrame(view.objects, piece.object);
    const paint = this.pieces.choiceOf(piece.thread) ?? { hex: design.threads[piece.thread].hex };
    const replaces = this.pieces.refOf(piece);
    const made = {
      ...shapeOfPiece(piece, freshShapeId(this.store.view()?.objects), piece.object, toFrame, paint),
      replaces,
    };
    this.state.select(undefined, false);
    this.store.change('points of a piece', (recipe) => {
      recipe.objects.push(made as Draft<ShapeObject>);
      // Where it lies is said by its points from now on.
      recipe.decisions = recipe.decisions.filter(
        (said) => !(said.kind === 'place' && isSameRef(said.at as PieceRef, replaces)),
      );
    });
    this.tool.set({ kind: 'edit', id: made.id });
  }

  /** What a drawing gets that begins on no picture. */
  paint(): ThreadChoice {
    const thread = this.thread();
    return thread === 'here' ? (this.pieces.choiceOf(0) ?? { hex: FIRST_HEX }) : thread;
  }

  /** What a drawing is sewn with that begins at a place of the picture. */
  private async paintAt(u: number, v: number): Promise<ThreadChoice> {
    if (this.thread() !== 'here' || !this.store.object()) return this.paint();
    try {
      const found = await this.conversion.sample(u, v);
      return found ? this.pieces.nearest(found.hex) : this.paint();
    } catch {
      return this.paint();
    }
  }

  private say(text: string): void {
    this.snack.open(text, undefined, { duration: 6000 });
  }
}
