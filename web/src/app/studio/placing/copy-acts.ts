import { inject, Injectable } from '@angular/core';
import type { Project } from '@open-kite/contract';
import {
  chain,
  frameMatrix,
  objectFrame,
  onItsLine,
  placeChosen,
  shapeOfPiece,
  sourcesOfObject,
  withSources,
  type CopiesObject,
  type Design,
  type DesignObject,
  type Matrix,
  type Piece,
  type PieceDecision,
  type Recipe,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { ObjectActs, removeObjects } from '../objects/object-acts';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { freshName } from '../../shared/fresh-name';
import { keepCopied, lastCopied, type Copied } from './clipboard';
import { moved } from './gesture';
import { PlaceActs } from './place-acts';

/** A copy lies this far beside what it is a copy of, so that both are seen. */
const BESIDE_MM = 5;
/** Pieces alike differ by no more than this share in size. */
const SAME_SIZE = 0.25;

/** What pieces have in common. */
export type Alike = 'thread' | 'kind' | 'size' | 'all';

/** Copies of what is chosen, in this project and from others; groups; the place in the stack; choosing what is alike. */
@Injectable()
export class CopyActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly place = inject(PlaceActs);
  private readonly objects = inject(ObjectActs);
  private readonly pieces = inject(PieceActs);

  /** Puts copies beside what is chosen, or where a map of the cloth takes them; they are chosen then. */
  duplicate(by: Matrix = moved(BESIDE_MM, BESIDE_MM)): void {
    const copied = this.chosen();
    if (copied.objects.length > 0) this.add('duplicated', copied, by);
  }

  /** @returns whether anything was chosen */
  copy(): boolean {
    const copied = this.chosen();
    if (copied.objects.length === 0) return false;
    const { length } = copied.objects;
    const kept = keepCopied(copied);
    this.place.say(kept ? `Copied ${length === 1 ? 'one object' : `${length} objects`}.` : 'The browser kept no copy.');
    return kept;
  }

  cut(): void {
    if (this.copy()) this.remove();
  }

  paste(): void {
    const recipe = this.store.recipe();
    const copied = recipe && lastCopied(recipe);
    if (!copied) this.place.say('Nothing was copied yet: choose something and press Ctrl C.');
    else this.add('pasted', copied, moved(BESIDE_MM, BESIDE_MM));
  }

  /** Puts all that another project is made of on top of this design, as one group, which is chosen then. */
  addProject({ name, recipe, pictures }: Pick<Project, 'name' | 'recipe' | 'pictures'>): void {
    const taken = new Set(this.store.recipe()?.objects.map(({ id }) => id));
    const copied = { objects: recipe.objects, decisions: recipe.decisions.filter(isAboutOne), pictures };
    if (copied.objects.length === 0) {
      this.place.say(`${name} is empty: there is nothing to add.`);
      return;
    }
    const { objects, decisions } = this.placed(copied, moved(0, 0), taken);
    const group = objects.length > 1 ? { group: this.freshGroup() } : {};
    this.store.changeWhole('project added', (draft: Draft<Recipe>) => {
      draft.objects.push(...(objects.map((object) => ({ ...object, ...group })) as Draft<DesignObject>[]));
      draft.decisions.push(...(decisions as typeof draft.decisions));
    });
    this.state.chooseLater(objects.map(({ id }) => id));
    const count = objects.length === 1 ? 'one object' : `${objects.length} objects, one group`;
    this.place.say(`${name} was added: ${count}. It is sewn with the fabric and the stitch settings of this design.`);
  }

  /** Removes chosen objects, and leaves chosen pieces of pictures bare. */
  remove(): void {
    const wholes = [...this.state.wholes()];
    if (wholes.length > 0) {
      this.state.select(undefined, false);
      this.objects.remove(wholes);
    } else this.pieces.leaveBare(this.state.selected());
  }

  /** Chosen objects are chosen together from now on. */
  group(): void {
    const ids = new Set(this.place.things().objects);
    if (ids.size < 2) {
      this.place.say('A group is made of two or more objects. Pieces of a picture stay with their picture.');
      return;
    }
    this.setGroup('grouped', ids, this.freshGroup());
  }

  ungroup(): void {
    this.setGroup('ungrouped', new Set(this.place.things().objects), undefined);
  }

  /** Whether what is chosen belongs to a group. */
  isGrouped(): boolean {
    const ids = this.place.things().objects;
    return (this.store.recipe()?.objects ?? []).some(({ id, group }) => group !== undefined && ids.includes(id));
  }

  /** Moves chosen objects one place up or down in the stack, in one change. */
  step(by: 1 | -1): void {
    const ids = new Set(this.place.things().objects);
    if (ids.size === 0) return;
    this.store.changeWhole(by > 0 ? 'object above' : 'object below', ({ objects }) => {
      const order = by > 0 ? [...objects.keys()].reverse() : [...objects.keys()];
      for (const at of order) {
        const to = at + by;
        if (!ids.has(objects[at].id) || to < 0 || to >= objects.length || ids.has(objects[to].id)) continue;
        [objects[at], objects[to]] = [objects[to], objects[at]];
      }
    });
  }

  /** Chooses every piece that is like one of those chosen. */
  chooseAlike(what: Alike): void {
    const design = this.conversion.design();
    const models = [...this.state.selected()].flatMap((i) => design?.pieces[i] ?? []);
    if (!design || models.length === 0) return;
    this.state.selectAll(design.pieces.flatMap((piece, i) => (models.some((m) => isAlike(m, piece, what)) ? [i] : [])));
  }

  private freshGroup(): string {
    return freshName(this.store.recipe()?.objects.map(({ group }) => group) ?? [], 'group-');
  }

  private setGroup(label: string, ids: ReadonlySet<string>, group: string | undefined): void {
    this.store.changeWhole(label, ({ objects }) => {
      for (const object of objects) {
        if (!ids.has(object.id)) continue;
        if (group === undefined) delete object.group;
        else object.group = group;
      }
    });
  }

  /** Makes real objects of copies: what stood there goes on standing there, and follows nothing any more. */
  makeReal({ id, of }: CopiesObject, maps: readonly Matrix[]): void {
    const recipe = this.store.recipe();
    if (!recipe) return;
    const ids = withOutlined(recipe.objects, of);
    if (!ids) {
      this.place.say(
        'An outline of single pieces, or of everything below, cannot be made real: it has nothing of its own to go around.',
      );
      return;
    }
    const known = this.wholes(recipe, ids);
    // What an outline goes around is there for it alone, where it was not copied itself.
    const objects = known.objects.map((object) => (of.includes(object.id) ? object : { ...object, hidden: true }));
    const copied = { ...known, objects };
    const taken = new Set(recipe.objects.map((object) => object.id));
    const made = maps.map((by) => this.placed(copied, by, taken));
    this.store.changeWhole('copies made real', (draft: Draft<Recipe>) => {
      removeObjects(draft, [id]);
      for (const { objects, decisions } of made) {
        draft.objects.push(...(objects as Draft<DesignObject>[]));
        draft.decisions.push(...(decisions as typeof draft.decisions));
      }
    });
    this.state.chooseLater(made.flatMap(({ objects }) => objects.map((object) => object.id)));
  }

  /** Whole objects, and what was said of them. */
  private wholes(recipe: Recipe, ids: readonly string[]): Copied {
    const objects = recipe.objects
      .filter(({ id }) => ids.includes(id))
      .map((object) => loose(recipe.objects, object.kind === 'letters' ? onItsLine(recipe.objects, object) : object));
    const pictures = Object.fromEntries(
      objects.flatMap(sourcesOfObject).map((source) => [source, this.store.pictures()[source]]),
    );
    const decisions = recipe.decisions.filter(
      (decision) => decision.at.object !== '' && ids.includes(decision.at.object) && isAboutOne(decision),
    );
    return { objects, decisions, pictures };
  }

  /** What is chosen as objects of its own: found pieces become shapes of the same thread and kind. */
  private chosen(): Copied {
    const design = this.conversion.design();
    const recipe = this.store.recipe();
    if (!design || !recipe) return { objects: [], decisions: [], pictures: {} };
    const { objects: ids } = this.place.things();
    const own = this.wholes(recipe, ids);
    const found = [...this.state.selected()].flatMap((i) => {
      const piece = design.pieces.at(i);
      const owner = recipe.objects.find(({ id }) => id === piece?.object);
      return piece && owner?.kind === 'picture' && !ids.includes(owner.id) ? [piece] : [];
    });
    const shapes = found.map((piece, n) => this.shapeOf(design, piece, `copied-${n + 1}`));
    const also = found.flatMap((piece, n) => stitchesSaid(piece, `copied-${n + 1}`));
    return { ...own, objects: [...own.objects, ...shapes], decisions: [...own.decisions, ...also] };
  }

  private shapeOf(design: Design, piece: Piece, id: string): DesignObject {
    const { hex, chart, code } = design.threads[piece.thread];
    const paint = chart === 'own' ? { hex } : { chart, code };
    return shapeOfPiece(piece, id, null, (x, y) => ({ u: x, v: y }), paint);
  }

  /** Adds copies under names of their own, above everything else. */
  private add(label: string, copied: Copied, by: Matrix): void {
    const taken = new Set(this.store.recipe()?.objects.map(({ id }) => id));
    const { objects, decisions } = this.placed(copied, by, taken);
    this.store.changeWhole(label, (recipe: Draft<Recipe>) => {
      recipe.objects.push(...(objects as Draft<DesignObject>[]));
      recipe.decisions.push(...(decisions as typeof recipe.decisions));
    });
    this.state.chooseLater(objects.map(({ id }) => id));
  }

  /**
   * Copies under names of their own, where a map of the cloth takes them.
   * @param taken names there are already; those of the copies are added
   */
  private placed(copied: Copied, by: Matrix, taken: Set<string>): Pick<Copied, 'objects' | 'decisions'> {
    const sources = this.sources(copied);
    const names = new Map<string, string>();
    for (const { id, kind } of copied.objects) {
      const name = freshName(taken, `${kind}-`);
      taken.add(name);
      names.set(id, name);
    }
    const named = (id: string): string => names.get(id) ?? id;
    const objects = copied.objects.map((object): DesignObject => {
      const on = object.on !== null && names.has(object.on) ? named(object.on) : null;
      const renamed = withSources(object, (source) => sources.get(source) ?? source);
      const base = { ...renamed, id: named(object.id), on, group: undefined };
      if (base.kind === 'letters' && base.along !== undefined) {
        // A copy follows the copy of its line; without one it stays on the line as that is.
        const { along, ...letters } = base;
        return names.has(along) ? { ...letters, along: named(along) } : letters;
      }
      if (base.kind === 'copies') {
        const { layout } = base;
        const along = layout.kind === 'path' ? { ...layout, along: named(layout.along) } : layout;
        return { ...base, of: base.of.map(named), layout: along };
      }
      return base.kind === 'outline' ? { ...base, of: base.of === null ? null : named(base.of) } : base;
    });
    const decisions = copied.decisions.map((said) => ({ ...said, at: { ...said.at, object: named(said.at.object) } }));
    const ids = objects.map(({ id }) => id);
    const placed = placeChosen({ objects, decisions }, { objects: ids, pieces: [] }, by) ?? { objects, decisions };
    return { objects: placed.objects.map(withoutGroup), decisions: placed.decisions };
  }

  /** Gives the project the pictures that copies show, under names it does not have yet. */
  private sources({ pictures }: Copied): Map<string, string> {
    const out = new Map<string, string>();
    for (const [source, picture] of Object.entries(pictures)) {
      const known = Object.entries(this.store.pictures()).find(([, own]) => own.hash === picture.hash);
      out.set(source, known ? known[0] : this.store.addPicture(picture));
    }
    return out;
  }
}

/** An object as it lies on the cloth, by itself: its place no longer counts from what it lay on. */
function loose(objects: readonly DesignObject[], object: DesignObject): DesignObject {
  if (!('place' in object) || object.on === null) return object;
  const outer = frameMatrix(objectFrame(objects, object.on).toHoop);
  return { ...object, on: null, place: chain(outer, object.place) };
}

/** Objects with those their outlines go around; undefined where an outline goes around what is no object. */
function withOutlined(objects: readonly DesignObject[], of: readonly string[]): string[] | undefined {
  const ids = new Set(of);
  for (const id of ids) {
    const object = objects.find((each) => each.id === id);
    if (object?.kind !== 'outline') continue;
    if (object.of === null || (object.pieces?.length ?? 0) > 0) return undefined;
    // A set is walked to its end, what is added meanwhile too.
    ids.add(object.of);
  }
  return [...ids];
}

const withoutGroup = ({ group, ...rest }: DesignObject): DesignObject => {
  void group;
  return rest;
};

/** Whether a decision names no other piece. */
const isAboutOne = ({ kind }: PieceDecision): boolean => kind !== 'join' && kind !== 'order';

/** What was said of how a found piece is sewn, for the shape that is a copy of it. */
function stitchesSaid({ choices }: Piece, object: string): PieceDecision[] {
  return Object.keys(choices.values).length > 0 ? [{ kind: 'stitch', at: { object }, set: choices.values }] : [];
}

function isAlike(a: Piece, b: Piece, what: Alike): boolean {
  const thread = a.thread === b.thread;
  const kind = a.kind === b.kind;
  const size = Math.abs(a.areaMm2 - b.areaMm2) <= SAME_SIZE * Math.max(a.areaMm2, b.areaMm2);
  return what === 'thread' ? thread : what === 'kind' ? kind : what === 'size' ? size : thread && kind && size;
}
