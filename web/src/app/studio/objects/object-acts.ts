import { computed, inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  firstPicture,
  kindOf,
  LIMITS,
  newOutline,
  OUTLINE_MM,
  rgbToLab,
  ciede2000,
  fromHex,
  onItsLine,
  type DesignObject,
  type LettersObject,
  type OutlineObject,
  type PictureObject,
  type Recipe,
  type StitchesObject,
} from '@open-kite/core';
import type { Picture } from '@open-kite/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { freshName } from '../../shared/fresh-name';
import { nameOfObject } from './object-name';

/** A picture that is drawn over shows so much. */
const SKETCH_FADE = 0.4;

/** What can be done to the objects of a design as wholes. */
@Injectable()
export class ObjectActs {
  private readonly api = inject(Api);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly snack = inject(MatSnackBar);
  private readonly state = inject(StudioState);

  /** Adds an outline of an object, just above it; it lies around those that there are already. */
  addOutline(of: string): void {
    const id = this.freshId('outline');
    const outline = this.newOutline(id);
    this.store.changeWhole('outline added', (recipe) => {
      const carrier = recipe.objects.findIndex((object) => object.id === of);
      if (carrier < 0) return;
      const own = { ...outline, on: of, of, offsetMm: clearOf(recipe.objects, of) };
      recipe.objects.splice(carrier + 1, 0, own as Draft<OutlineObject>);
    });
  }

  /** An outline of everything below it, of which nothing was said yet. */
  newOutline(id: string): OutlineObject {
    return newOutline(id, null, { hex: this.outlineHex() });
  }

  /** Changes something of one object. */
  change<K extends DesignObject['kind']>(
    label: string,
    id: string,
    kind: K,
    edit: (object: Draft<Extract<DesignObject, { kind: K }>>) => void,
  ): void {
    this.store.changeWhole(label, (recipe) => {
      const object = recipe.objects.find((o) => o.id === id);
      if (object?.kind === kind) edit(object as Draft<Extract<DesignObject, { kind: K }>>);
    });
  }

  /** Removes objects with everything that belongs to them, and what was said of their pieces. */
  remove(ids: readonly string[]): void {
    this.store.changeWhole(ids.length === 1 ? 'object removed' : 'objects removed', (recipe) =>
      removeObjects(recipe, ids),
    );
  }

  rename(id: string, name: string): void {
    this.store.changeWhole('name of an object', (recipe) => {
      const object = recipe.objects.find((o) => o.id === id);
      if (object) object.name = name.trim().slice(0, 120);
    });
  }

  /** Shapes and lines of the user's own, along which something else may stand. */
  readonly lines = computed(() => {
    const objects = this.store.recipe()?.objects ?? [];
    return objects
      .filter((object) => object.kind === 'shape' && object.role === 'piece')
      .map((object) => ({ id: object.id, name: nameOfObject(objects, object) }));
  });

  setHidden(id: string, hidden: boolean): void {
    this.store.changeWhole(hidden ? 'object hidden' : 'object shown', (recipe) => {
      const object = recipe.objects.find((o) => o.id === id);
      if (object) object.hidden = hidden;
    });
  }

  /** Keeps a picture to draw over: it is not sewn, and lies faded on the cloth; or sews it again. */
  drawOver(id: string, sketch: boolean): void {
    this.change(sketch ? 'picture only to draw over' : 'picture sewn', id, 'picture', (picture) => {
      if (sketch) picture.sketch = true;
      else delete picture.sketch;
    });
    if (!sketch) {
      this.state.compare.set('none');
      return;
    }
    this.state.fade.set(SKETCH_FADE);
    this.state.compare.set('fade');
    this.state.knot.set('pieces');
  }

  setLocked(id: string, locked: boolean): void {
    this.store.changeWhole(locked ? 'object locked' : 'object unlocked', (recipe) => {
      const object = recipe.objects.find((o) => o.id === id);
      if (object) object.locked = locked;
    });
  }

  /** Moves an object one place up or down in the stack. */
  step(id: string, by: 1 | -1): void {
    this.store.changeWhole(by > 0 ? 'object above' : 'object below', ({ objects }) => {
      const at = objects.findIndex((object) => object.id === id);
      const to = at + by;
      if (at < 0 || to < 0 || to >= objects.length) return;
      const [object] = objects.splice(at, 1);
      objects.splice(to, 0, object);
    });
  }

  /** Adds a picture to the design, above what is there, and opens it. */
  async addPicture(file: Blob): Promise<void> {
    try {
      const picture = await firstValueFrom(this.api.addPicture(file));
      if (picture.kind === 'list') {
        await this.addList(picture);
        return;
      }
      const source = this.store.addPicture(picture);
      const id = this.freshId('picture');
      const made = this.store.recipe()?.objects.some((object) => object.id === source) ? id : source;
      const object: PictureObject = { ...firstPicture(made, picture.width, picture.height), source };
      this.store.changeWhole('picture added', (recipe) => {
        recipe.objects.push(object as Draft<PictureObject>);
      });
      this.store.openPicture.set(made);
    } catch (error) {
      this.snack.open(`No picture was added: ${(error as Error).message}.`, undefined, { duration: 8000 });
    }
  }

  /** Gives the project a picture that nothing sews: cloth is printed with it. @returns its name; undefined where it cannot be */
  async addSource(file: Blob): Promise<string | undefined> {
    try {
      const picture = await firstValueFrom(this.api.addPicture(file));
      if (picture.kind !== 'list') return this.store.addPicture(picture);
      this.snack.open('Cloth is printed with pictures, not with stitch lists.', undefined, { duration: 8000 });
    } catch (error) {
      this.snack.open(`No picture was added: ${(error as Error).message}.`, undefined, { duration: 8000 });
    }
    return undefined;
  }

  /** Adds a stitch list, sewn after everything else. */
  private async addList(picture: Picture): Promise<void> {
    const source = this.store.addPicture(picture);
    const id = this.freshId('stitches');
    const object = await this.conversion.listAt(picture.hash, id, source);
    this.store.changeWhole('stitches added', (recipe) => {
      recipe.objects.push(object as Draft<StitchesObject>);
    });
    this.state.chooseWhole(id);
  }

  freshId(base: string): string {
    return freshName(this.store.recipe()?.objects.map(({ id }) => id) ?? [], `${base}-`);
  }

  say(text: string): void {
    this.snack.open(text, undefined, { duration: 6000 });
  }

  /** A first colour that can be seen: the thread of the design that differs most from the cloth. */
  outlineHex(): string {
    const cloth = rgbToLab(fromHex(this.store.recipe()?.cloth.hex ?? '#ffffff'));
    const hexes = this.conversion.design()?.threads.map(({ hex }) => hex) ?? [];
    const far = (hex: string): number => ciede2000(cloth, rgbToLab(fromHex(hex)));
    return hexes.reduce((best, hex) => (far(hex) > far(best) ? hex : best), '#22304a');
  }
}

/** Takes objects out of a recipe, what belongs to them, and what was said of their pieces. */
export function removeObjects(recipe: Pick<Draft<Recipe>, 'objects' | 'decisions'>, ids: readonly string[]): void {
  const gone = new Set(ids);
  for (let grown = true; grown;) {
    grown = false;
    for (const object of recipe.objects as readonly DesignObject[]) {
      if (gone.has(object.id)) continue;
      const needs = kindOf(object).needs(object);
      if ((object.on !== null && gone.has(object.on)) || needs.some((id) => gone.has(id))) {
        gone.add(object.id);
        grown = true;
      }
    }
  }
  // A text stays where its line was.
  for (const object of recipe.objects) {
    if (object.kind !== 'letters' || object.along === undefined || !gone.has(object.along)) continue;
    Object.assign(object, { path: onItsLine(recipe.objects as readonly DesignObject[], object as LettersObject).path });
    delete object.along;
  }
  recipe.objects = recipe.objects.filter(({ id }) => !gone.has(id));
  recipe.decisions = recipe.decisions.filter(
    (decision) =>
      !gone.has(decision.at.object) &&
      !(decision.kind === 'join' && gone.has(decision.to.object)) &&
      !(decision.kind === 'order' && typeof decision.before !== 'string' && gone.has(decision.before.object)),
  );
}

/** Where the middle of another outline lies: on the edge, or so far outside that it does not lie on those there are. */
function clearOf(objects: readonly DesignObject[], of: string): number {
  const outer = objects.flatMap((object) =>
    object.kind === 'outline' && object.of === of ? [object.offsetMm + object.widthMm / 2] : [],
  );
  const [least, most] = LIMITS.offsetMm;
  return outer.length === 0 ? 0 : Math.min(most, Math.max(least, Math.max(...outer) + OUTLINE_MM / 2));
}
