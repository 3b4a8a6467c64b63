import { ChangeDetectionStrategy, Component, computed, inject, viewChild, type ElementRef } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { ProjectSummary } from '@open-kite/contract';
import { curvesOf, outlineBox, parseRecipe, svgPath, type DesignObject, type Piece } from '@open-kite/core';
import { ChevronDown, ChevronUp, Eye, EyeOff, Lock, LockOpen, LucideAngularModule, Plus } from 'lucide-angular';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { PICTURE_TYPES } from '../../shared/picture-drop';
import { RenameDialog, type Renamed } from '../../shared/rename-dialog';
import { CopyActs } from '../placing/copy-acts';
import { StudioState } from '../studio-state';
import { LetterActs } from '../letters/letter-acts';
import { MoreActs } from './more-acts';
import { ObjectActs } from './object-acts';
import { nameItself, nameOfObject } from './object-name';
import { ProjectDialog } from './project-dialog';

interface Chip {
  readonly object: DesignObject;
  readonly label: string;
  /** Picture it shows. */
  readonly image?: string;
  readonly path?: string;
  readonly viewBox?: string;
  readonly hex: string;
  readonly line: boolean;
}

/** Whether an object is there to be drawn over. */
const isSketch = (object: DesignObject): boolean => object.kind === 'picture' && object.sketch === true;

/** Whether an object is seen as a line: what is not filled has no inside. */
const isLine = (object: DesignObject): boolean =>
  object.kind === 'outline' || (object.kind === 'shape' && object.paths.every(({ closed }) => !closed));

/** The objects of the design, highest first, as small pictures in a row. */
@Component({
  selector: 'kite-object-row',
  imports: [LucideAngularModule, MatMenuModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul role="list" aria-label="Objects, highest first">
      @for (chip of chips(); track chip.object.id) {
        <li>
          <button
            type="button"
            class="chip"
            [class.hidden-object]="isFaint(chip.object)"
            [attr.aria-label]="chip.label"
            [attr.aria-pressed]="isOpen(chip.object)"
            [matTooltip]="chip.label"
            (click)="open(chip.object)"
            (contextmenu)="$event.preventDefault(); menuTrigger.openMenu()"
          >
            @if (chip.image) {
              <img [src]="chip.image" alt="" />
            } @else {
              <svg [attr.viewBox]="chip.viewBox" aria-hidden="true">
                <path
                  [attr.d]="chip.path"
                  [style.fill]="chip.line ? 'none' : chip.hex"
                  [style.stroke]="chip.line ? chip.hex : 'none'"
                  fill-rule="evenodd"
                />
              </svg>
            }
            @if (chip.object.locked) {
              <lucide-icon class="lock" [img]="icons.Lock" [size]="11" aria-hidden="true" />
            }
          </button>
          <button
            type="button"
            class="more"
            #menuTrigger="matMenuTrigger"
            [matMenuTriggerFor]="menu"
            [attr.aria-label]="'More for ' + chip.label"
          ></button>
          <mat-menu #menu="matMenu">
            <button mat-menu-item type="button" (click)="acts.setHidden(chip.object.id, !chip.object.hidden)">
              <lucide-icon [img]="chip.object.hidden ? icons.Eye : icons.EyeOff" [size]="16" aria-hidden="true" />
              {{ chip.object.hidden ? 'Show and sew it' : 'Hide it' }}
            </button>
            <button mat-menu-item type="button" (click)="acts.setLocked(chip.object.id, !chip.object.locked)">
              <lucide-icon [img]="chip.object.locked ? icons.LockOpen : icons.Lock" [size]="16" aria-hidden="true" />
              {{ chip.object.locked ? 'Unlock it' : 'Lock it' }}
            </button>
            <button mat-menu-item type="button" (click)="acts.step(chip.object.id, 1)">
              <lucide-icon [img]="icons.ChevronUp" [size]="16" aria-hidden="true" /> One higher
            </button>
            <button mat-menu-item type="button" (click)="acts.step(chip.object.id, -1)">
              <lucide-icon [img]="icons.ChevronDown" [size]="16" aria-hidden="true" /> One lower
            </button>
            <button mat-menu-item type="button" (click)="rename(chip.object)">Rename</button>
            @if (chip.object.kind === 'picture') {
              <button mat-menu-item type="button" (click)="acts.drawOver(chip.object.id, !chip.object.sketch)">
                {{ chip.object.sketch ? 'Sew it as well' : 'Only draw over it' }}
              </button>
            }
            @if (chip.object.kind !== 'outline') {
              <button mat-menu-item type="button" (click)="acts.addOutline(chip.object.id)">Add its outline</button>
            }
            @if (chips().length > 1) {
              <button mat-menu-item type="button" (click)="acts.remove([chip.object.id])">Remove</button>
            }
          </mat-menu>
        </li>
      }
      <li>
        <button type="button" class="chip add" aria-label="Add" matTooltip="Add an object" [matMenuTriggerFor]="adding">
          <lucide-icon [img]="icons.Plus" [size]="16" aria-hidden="true" />
        </button>
        <mat-menu #adding="matMenu">
          <button mat-menu-item type="button" (click)="pick()">Picture or stitch list …</button>
          <button mat-menu-item type="button" (click)="addProject()">Another project …</button>
          <button mat-menu-item type="button" (click)="letters.add()">Letters</button>
          <button mat-menu-item type="button" (click)="more.addOutline('satin')">Outline of what is chosen</button>
          <button mat-menu-item type="button" (click)="more.addBorder()">Border around the design</button>
          <button mat-menu-item type="button" (click)="more.addOutline('applique')">Applique of what is chosen</button>
          <button mat-menu-item type="button" (click)="more.addCopies()">Copies of what is chosen</button>
        </mat-menu>
        <input
          #file
          class="visually-hidden"
          type="file"
          tabindex="-1"
          aria-hidden="true"
          [accept]="types"
          (change)="chosen($event)"
        />
      </li>
    </ul>
  `,
  styles: `
    :host {
      display: block;
      padding: 4px 10px 6px;
      border-bottom: 1px solid var(--line);
    }
    ul {
      display: flex;
      gap: 4px;
      margin: 0;
      padding: 2px 0;
      overflow-x: auto;
      list-style: none;
      scrollbar-width: thin;
    }
    li {
      position: relative;
      flex: none;
    }
    .chip {
      display: grid;
      place-items: center;
      width: 38px;
      height: 38px;
      padding: 2px;
      border: 1px solid var(--line);
      border-radius: 7px;
      background: var(--paper);
      color: var(--ink);
      cursor: pointer;
    }
    .chip[aria-pressed='true'] {
      border-color: var(--ember);
      box-shadow: inset 0 0 0 1px var(--ember);
    }
    .chip img,
    .chip svg {
      width: 100%;
      height: 100%;
      object-fit: contain;
      border-radius: 4px;
    }
    .chip path {
      stroke-width: 7%;
    }
    .hidden-object img,
    .hidden-object svg {
      opacity: 0.28;
    }
    .lock {
      position: absolute;
      top: 1px;
      left: 2px;
    }
    .more {
      position: absolute;
      right: 0;
      bottom: 0;
      width: 14px;
      height: 14px;
      padding: 0;
      border: 0;
      background: linear-gradient(135deg, transparent 50%, var(--mute) 50%);
      border-radius: 0 0 6px;
      cursor: pointer;
    }
    .add {
      border-style: dashed;
    }
  `,
})
export class ObjectRow {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialog);
  private readonly copies = inject(CopyActs);
  protected isFaint = (object: DesignObject): boolean => object.hidden || isSketch(object);
  protected readonly acts = inject(ObjectActs);
  protected readonly letters = inject(LetterActs);
  protected readonly more = inject(MoreActs);
  protected readonly icons = { ChevronDown, ChevronUp, Eye, EyeOff, Lock, LockOpen, Plus };
  protected readonly types = `${PICTURE_TYPES},.csv,.json`;
  private readonly file = viewChild.required<ElementRef<HTMLInputElement>>('file');

  protected readonly chips = computed((): Chip[] => {
    const objects = this.store.recipe()?.objects ?? [];
    const colours = this.conversion.design()?.colours ?? [];
    return objects
      .map((object): Chip => {
        const { hidden, locked } = object;
        const state = [hidden ? 'hidden' : '', isSketch(object) ? 'only drawn over' : '', locked ? 'locked' : '']
          .filter(Boolean)
          .join(', ');
        const label = `${nameOfObject(objects, object)}${state ? ` (${state})` : ''}`;
        const base = { object, label, line: isLine(object), hex: hexOf(object, colours) };
        if (object.kind === 'picture') {
          const picture = this.store.pictures()[object.source];
          return { ...base, image: picture && `/api/pictures/${picture.hash}/image` };
        }
        if (object.kind === 'stitches') {
          const list = this.store.pictures()[object.source];
          return { ...base, image: list && `/api/pictures/${list.hash}/image` };
        }
        return { ...base, ...sketchOf(objects, object, this.conversion.design()?.pieces ?? []) };
      })
      .reverse();
  });

  protected isOpen({ id, kind }: DesignObject): boolean {
    if (this.state.wholes().has(id)) return true;
    if (kind === 'picture') return this.store.object()?.id === id;
    const pieces = this.conversion.design()?.pieces ?? [];
    return [...this.state.selected()].some((i) => pieces[i]?.object === id);
  }

  /** Opens a picture and chooses it as a whole; of anything else its pieces are chosen. */
  protected open({ id, kind }: DesignObject): void {
    if (kind === 'picture') {
      this.store.openPicture.set(id);
      this.state.chooseWhole(id);
      return;
    }
    if (kind === 'letters' || kind === 'stitches') {
      this.state.chooseWhole(id);
      return;
    }
    const pieces = this.conversion.design()?.pieces ?? [];
    this.state.selectAll(pieces.flatMap(({ object }, i) => (object === id ? [i] : [])));
  }

  /** Asks which project, and puts it on top of this design. */
  protected async addProject(): Promise<void> {
    const data = this.store.stored()?.id ?? '';
    const asked = this.dialog.open<ProjectDialog, string, ProjectSummary>(ProjectDialog, { data, width: '560px' });
    const chosen = await firstValueFrom(asked.afterClosed());
    if (!chosen) return;
    try {
      const project = await firstValueFrom(this.api.project(chosen.id));
      this.copies.addProject({ ...project, recipe: parseRecipe(project.recipe) });
    } catch (error) {
      this.acts.say(`${chosen.name} was not added: ${(error as Error).message}.`);
    }
  }

  /** Asks what an object is to be called. */
  protected async rename(object: DesignObject): Promise<void> {
    const otherwise = nameItself(this.store.recipe()?.objects ?? [], object);
    const data: Renamed = { name: object.name, otherwise };
    const name = await firstValueFrom(
      this.dialog.open<RenameDialog, Renamed, string>(RenameDialog, { data }).afterClosed(),
    );
    if (name !== undefined && name !== object.name) this.acts.rename(object.id, name);
  }

  protected pick(): void {
    this.file().nativeElement.click();
  }

  protected chosen(event: Event): void {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    if (file) void this.acts.addPicture(file);
    field.value = '';
  }
}

function hexOf(object: DesignObject, colours: readonly { readonly hex: string }[]): string {
  if (object.kind === 'picture' || object.kind === 'stitches' || object.kind === 'copies')
    return colours.at(0)?.hex ?? '#888888';
  const { paint } = object;
  return 'hex' in paint ? paint.hex : 'like' in paint ? paint.like.hex : '#6d7672';
}

/** A small picture of a shape, or of an edge. */
function sketchOf(
  objects: readonly DesignObject[],
  object: DesignObject,
  pieces: readonly Piece[],
): { path: string; viewBox: string } {
  const own = pieces.filter((piece) => piece.object === object.id).flatMap(({ outline }) => outline);
  const curves =
    object.kind === 'letters' || object.kind === 'copies' || isOfAll(object) ? own : curvesOf(objects, object);
  if (curves.length === 0) return { path: '', viewBox: '0 0 1 1' };
  const { left, top, right, bottom } = outlineBox(curves);
  const side = Math.max(right - left, bottom - top, 1);
  const room = side * 0.12;
  return {
    path: curves.map((curve) => svgPath(curve, 2, object.kind === 'outline')).join(''),
    viewBox: `${left - room} ${top - room} ${right - left + 2 * room} ${bottom - top + 2 * room}`,
  };
}

/** Whether an outline has no object of its own: it is sketched by what is sewn of it. */
const isOfAll = (object: DesignObject): boolean => object.kind === 'outline' && object.of === null;
