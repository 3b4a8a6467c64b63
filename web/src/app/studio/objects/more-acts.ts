import { computed, inject, Injectable } from '@angular/core';
import {
  boundsOf,
  brokenApplique,
  lineOfCopies,
  mapsOfCopies,
  USUAL_APPLIQUE,
  type CopiesObject,
  type DesignObject,
  type OutlineObject,
  type Piece,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { CopyActs } from '../placing/copy-acts';
import { PlaceActs } from '../placing/place-acts';
import { StudioState } from '../studio-state';
import { ObjectActs } from './object-acts';

const BORDER_MM = 4;
/** A border lies so far outside what it surrounds, and closes gaps up to this. */
const BORDER_OUT_MM = 2;
const BORDER_CLOSE_MM = 8;
const BASE = { name: '', on: null, hidden: false, locked: false };

const cornersOf = ({ bounds: { left, top, right, bottom } }: Piece): number[] => [left, top, right, bottom];

/** Objects that belong to others: outlines, borders, applique and copies of what is chosen. */
@Injectable()
export class MoreActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly place = inject(PlaceActs);
  private readonly objects = inject(ObjectActs);
  private readonly copyActs = inject(CopyActs);

  /** The one outline or the copies that are chosen. */
  readonly chosen = computed((): OutlineObject | CopiesObject | undefined => {
    const pieces = this.conversion.design()?.pieces ?? [];
    const ids = new Set([...this.state.selected()].map((i) => pieces[i]?.object));
    if (ids.size !== 1) return undefined;
    const [id] = ids;
    const object = this.store.recipe()?.objects.find((o) => o.id === id);
    return object?.kind === 'outline' || object?.kind === 'copies' ? object : undefined;
  });

  readonly outline = computed(() => {
    const chosen = this.chosen();
    return chosen?.kind === 'outline' ? chosen : undefined;
  });
  readonly copies = computed(() => {
    const chosen = this.chosen();
    return chosen?.kind === 'copies' ? chosen : undefined;
  });

  /** An outline of what is chosen; of single pieces one around all of them. */
  addOutline(as: 'satin' | 'applique'): void {
    const { objects, pieces } = this.place.things();
    if (objects.length + pieces.length === 0) {
      this.place.say('Choose what it is to go around: a piece, a shape, a text or a picture.');
      return;
    }
    const made = objects.map((of): Partial<OutlineObject> => ({ of }));
    if (pieces.length > 0) made.push({ of: null, pieces });
    this.add(
      as === 'applique' ? 'applique' : 'outline added',
      made.map((outline, i) =>
        this.newOutline(i, { as, ...outline, ...(as === 'applique' ? { applique: USUAL_APPLIQUE } : {}) }),
      ),
    );
  }

  /** A border around the whole design, sewn last. */
  addBorder(): void {
    const border = {
      of: null,
      offsetMm: BORDER_OUT_MM,
      widthMm: BORDER_MM,
      closeMm: BORDER_CLOSE_MM,
      corners: 'round' as const,
    };
    this.add('border', [this.newOutline(0, border)]);
  }

  /** Copies of what is chosen in a ring, to begin with. */
  addCopies(): void {
    const of = this.chosenObjects();
    const own = (this.conversion.design()?.pieces ?? []).filter(({ object }) => of.includes(object));
    const box = this.place.box() ?? (own.length > 0 ? boundsOf(own.map(cornersOf)) : undefined);
    if (of.length === 0 || !box) {
      this.place.say(
        'Choose an object to copy: a shape, a text or a whole picture. A single piece is duplicated with Ctrl D.',
      );
      return;
    }
    const radiusMm = Math.max(10, Math.round(Math.max(box.right - box.left, box.bottom - box.top)));
    const copies: CopiesObject = {
      ...BASE,
      kind: 'copies',
      id: this.objects.freshId('copies'),
      of,
      layout: { kind: 'ring', count: 6, radiusMm, turned: true },
    };
    this.add('copies', [copies]);
  }

  /** Breaks the chosen applique into its steps, each an object of its own. */
  breakApplique(): void {
    const outline = this.outline();
    if (outline?.as !== 'applique') return;
    const first = Number(this.objects.freshId('outline').split('-')[1]);
    let n = first;
    const { objects: steps, decisions } = brokenApplique(outline, () => `outline-${n++}`);
    if (steps.length === 0) return;
    this.store.changeWhole('applique broken into steps', (recipe) => {
      const at = recipe.objects.findIndex(({ id }) => id === outline.id);
      recipe.objects.splice(at, 1, ...(steps as Draft<DesignObject>[]));
      // Copies of the applique are copies of all its steps; what was said of the last one still holds.
      const ids = steps.map(({ id }) => id);
      for (const object of recipe.objects) {
        if (object.kind === 'copies' && object.of.includes(outline.id))
          object.of = [...new Set([...object.of, ...ids])];
      }
      recipe.decisions.push(...(decisions as typeof recipe.decisions));
    });
    this.state.chooseLater(steps.map(({ id }) => id));
  }

  /** Makes real objects of the chosen copies. */
  makeReal(): void {
    const copies = this.copies();
    const recipe = this.store.recipe();
    const own = (this.conversion.design()?.pieces ?? []).filter(({ object }) => copies?.of.includes(object));
    if (!copies || !recipe || own.length === 0) return;
    const box = boundsOf(own.map(cornersOf));
    this.copyActs.makeReal(copies, mapsOfCopies(copies.layout, box, lineOfCopies(recipe.objects, copies)));
  }

  /** Objects that are chosen as a whole, those among them that follow others. */
  private chosenObjects(): string[] {
    const { pieces } = this.conversion.design() ?? { pieces: [] };
    const ids = new Set([...this.state.wholes(), ...[...this.state.selected()].map((i) => pieces[i]?.object)]);
    const wholes = new Set(this.place.things().objects);
    return (this.store.recipe()?.objects ?? []).flatMap(({ id, kind, locked }) =>
      wholes.has(id) || (ids.has(id) && kind === 'outline' && !locked) ? [id] : [],
    );
  }

  private newOutline(index: number, more: Partial<OutlineObject>): OutlineObject {
    const first = Number(this.objects.freshId('outline').split('-')[1]);
    return { ...this.objects.newOutline(`outline-${first + index}`), ...more };
  }

  private add(label: string, made: readonly DesignObject[]): void {
    this.store.changeWhole(label, ({ objects }) => {
      objects.push(...(made as Draft<DesignObject>[]));
    });
    this.state.chooseLater(made.map(({ id }) => id));
  }
}
