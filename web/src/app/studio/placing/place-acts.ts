import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  boundsOf,
  canBePlaced,
  chain,
  edgeOf,
  IDENTITY,
  kindOf,
  mapPoint,
  placeChosen,
  type Bounds,
  type ChosenThings,
  type Design,
  type DesignObject,
  type Matrix,
  type PlacedDesign,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { refIn } from '../pieces/piece-refs';
import { StudioState } from '../studio-state';
import { middleOf, mirrored, moved, scaled, turned } from './gesture';

/** Sides that things are lined up by. */
export type Side = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom';

/** One of the chosen things by itself, and what it covers on the cloth. */
interface Thing {
  readonly things: ChosenThings;
  /** Read from the recipe it is where it lies now; from the stitches, where it lay when they were made. */
  readonly box: Bounds;
  readonly isNow: boolean;
}

const NOTHING: ChosenThings = { objects: [], pieces: [] };

/** Where what is chosen lies: it is moved, scaled, turned, mirrored and lined up. */
@Injectable()
export class PlaceActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly snack = inject(MatSnackBar);

  /** What a gesture under way means so far. */
  readonly gesture = signal<{ readonly by: Matrix; readonly copy: boolean } | undefined>(undefined);
  /** What was done since the stitches on the stage were made. */
  private readonly pending = signal<Matrix>(IDENTITY);

  /** The chosen things one by one: whole objects, and single found pieces. */
  private readonly list = computed((): Thing[] => {
    const design = this.conversion.design();
    const objects = this.store.recipe()?.objects ?? [];
    return design ? thingsOf(design, objects, this.state.selected(), this.state.wholes()) : [];
  });

  readonly things = computed((): ChosenThings => ({
    objects: this.list().flatMap(({ things }) => things.objects),
    pieces: this.list().flatMap(({ things }) => things.pieces),
  }));
  readonly count = computed(() => this.list().length);
  readonly movable = computed(() => this.list().length > 0);

  /** What the chosen things cover on the cloth, in mm, as the recipe has them now. */
  readonly box = computed((): Bounds | undefined => {
    const list = this.list();
    if (list.length === 0) return undefined;
    const pending = this.pending();
    const points = list.flatMap(({ box: { left, top, right, bottom }, isNow }) => {
      const by = isNow ? IDENTITY : pending;
      return [
        ...mapPoint(by, left, top),
        ...mapPoint(by, right, top),
        ...mapPoint(by, right, bottom),
        ...mapPoint(by, left, bottom),
      ];
    });
    return boundsOf([points]);
  });

  constructor() {
    effect(() => {
      this.conversion.design();
      this.state.selected();
      this.state.wholes();
      untracked(() => this.pending.set(IDENTITY));
    });
  }

  /** How what lies on the stage is to be shown moved: the gesture, after what is not sewn yet. */
  readonly shown = computed((): Matrix => chain(this.gesture()?.by ?? IDENTITY, this.pending()));

  /** Carries out a map of the cloth on what is chosen. */
  apply(label: string, by: Matrix): void {
    const recipe = this.store.recipe();
    if (!recipe || this.count() === 0) return;
    const placed = placeChosen(recipe, this.things(), by);
    if (!placed) {
      this.say('It would be smaller or larger than can be sewn.');
      return;
    }
    this.pending.update((before) => chain(by, before));
    this.put(label, recipe, placed);
  }

  nudge(dx: number, dy: number): void {
    this.apply('moved', moved(dx, dy));
  }

  /** Moves the middle of what is chosen to a place, in mm. */
  moveTo(axis: 'x' | 'y', mm: number): void {
    const box = this.box();
    if (!box) return;
    const at = middleOf(box);
    this.apply('moved', axis === 'x' ? moved(mm - at.x, 0) : moved(0, mm - at.y));
  }

  /** Gives what is chosen another width or height in mm. */
  resize(side: 'width' | 'height', mm: number, keepProportion: boolean): void {
    const box = this.box();
    if (!box || mm <= 0) return;
    const now = side === 'width' ? box.right - box.left : box.bottom - box.top;
    const share = mm / Math.max(1e-6, now);
    const [sx, sy] = keepProportion ? [share, share] : side === 'width' ? [share, 1] : [1, share];
    this.apply('scaled', scaled(middleOf(box), sx, sy));
  }

  turn(degrees: number): void {
    const box = this.box();
    if (box && Number.isFinite(degrees)) this.apply('turned', turned(middleOf(box), degrees));
  }

  mirror(axis: 'x' | 'y'): void {
    const box = this.box();
    if (box) this.apply('mirrored', mirrored(middleOf(box), axis));
  }

  /** Lines the chosen things up by a side of what they cover together; one alone by the hoop's middle. */
  align(side: Side): void {
    const whole = this.box();
    if (!whole) return;
    const alone = this.count() === 1;
    const goal = alone ? { left: 0, top: 0, right: 0, bottom: 0 } : whole;
    this.each('lined up', ({ box }) => {
      switch (side) {
        case 'left':
          return moved(goal.left - box.left, 0);
        case 'right':
          return moved(goal.right - box.right, 0);
        case 'middle':
          return moved(middleOf(goal).x - middleOf(box).x, 0);
        case 'top':
          return moved(0, goal.top - box.top);
        case 'bottom':
          return moved(0, goal.bottom - box.bottom);
        case 'centre':
          return moved(0, middleOf(goal).y - middleOf(box).y);
      }
    });
  }

  /** Leaves the same room between neighbours, from the first to the last. */
  spread(axis: 'x' | 'y'): void {
    const list = this.list();
    if (list.length < 3) return;
    const [from, to] = axis === 'x' ? (['left', 'right'] as const) : (['top', 'bottom'] as const);
    const sorted = [...list].sort((a, b) => a.box[from] + a.box[to] - b.box[from] - b.box[to]);
    const first = sorted[0].box[from];
    const last = Math.max(...sorted.map(({ box }) => box[to]));
    const filled = sorted.reduce((sum, { box }) => sum + box[to] - box[from], 0);
    const room = (last - first - filled) / (sorted.length - 1);
    const goals = new Map<Thing, number>();
    let at = first;
    for (const thing of sorted) {
      goals.set(thing, at);
      at += thing.box[to] - thing.box[from] + room;
    }
    this.each('spread evenly', (thing) => {
      const by = (goals.get(thing) ?? 0) - thing.box[from];
      return axis === 'x' ? moved(by, 0) : moved(0, by);
    });
  }

  /** Moves each of the chosen things by a map of its own, as one change. */
  private each(label: string, mapOf: (thing: Thing) => Matrix): void {
    const recipe = this.store.recipe();
    if (!recipe) return;
    let placed: PlacedDesign = recipe;
    for (const thing of this.list()) placed = placeChosen(placed, thing.things, mapOf(thing)) ?? placed;
    this.put(label, recipe, placed);
  }

  /** Writes what changed and nothing else, so that an undo step stays small. */
  private put(label: string, before: PlacedDesign, after: PlacedDesign): void {
    this.store.changeWhole(label, (recipe) => {
      after.objects.forEach((object, i) => {
        if (object !== before.objects[i]) recipe.objects[i] = object as Draft<DesignObject>;
      });
      after.decisions.forEach((said, i) => {
        if (said !== before.decisions[i]) recipe.decisions[i] = said;
      });
    });
  }

  say(text: string): void {
    this.snack.open(text, undefined, { duration: 6000 });
  }
}

/** Chosen pieces and objects as things that are moved by themselves; what follows others is none. */
function thingsOf(
  design: Design,
  objects: readonly DesignObject[],
  selected: ReadonlySet<number>,
  wholes: ReadonlySet<string>,
): Thing[] {
  const out: Thing[] = [];
  const seen = new Set<string>();
  const whole = (object: DesignObject): void => {
    if (seen.has(object.id) || !canBePlaced(object)) return;
    seen.add(object.id);
    const own = design.pieces.filter((piece) => piece.object === object.id).map(({ bounds }) => bounds);
    const edge = object.kind === 'picture' || own.length === 0 ? edgeOf(objects, object.id) : undefined;
    const box = edge && edge.length > 0 ? boundsOf(edge) : unionOf(own);
    const isNow = edge !== undefined && edge.length > 0;
    if (box) out.push({ things: { objects: [object.id], pieces: [] }, box, isNow });
  };
  for (const object of objects) if (wholes.has(object.id)) whole(object);
  for (const index of selected) {
    const piece = design.pieces.at(index);
    const owner = objects.find(({ id }) => id === piece?.object);
    if (!piece || !owner) continue;
    if (owner.kind !== 'picture') whole(owner);
    else if (!seen.has(owner.id) && !owner.locked && kindOf(owner).placed) {
      out.push({ things: { ...NOTHING, pieces: [refIn(design, piece, objects)] }, box: piece.bounds, isNow: false });
    }
  }
  return out;
}

function unionOf(boxes: readonly Bounds[]): Bounds | undefined {
  if (boxes.length === 0) return undefined;
  return {
    left: Math.min(...boxes.map(({ left }) => left)),
    top: Math.min(...boxes.map(({ top }) => top)),
    right: Math.max(...boxes.map(({ right }) => right)),
    bottom: Math.max(...boxes.map(({ bottom }) => bottom)),
  };
}
