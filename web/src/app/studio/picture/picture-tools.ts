import { inject, Injectable, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  finishedSize,
  hoopToSource,
  LIMITS,
  MASK_PROPORTION,
  stretch,
  withinHoop,
  type Anchor,
  type Mask,
  type MaskShape,
  type Placement,
  type PictureView,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import type { Draft } from '../../project/history';
import { Preferences } from '../../shared/preferences';
import { formatLength } from '../../shared/units';
import type { MaskMode } from './mask-editor';

/** What can be done to the picture: its mask, its size, how it is turned. Sheet and pane share it. */
@Injectable()
export class PictureTools {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly snack = inject(MatSnackBar);
  private readonly preferences = inject(Preferences);

  readonly mode = signal<MaskMode>('shape');
  readonly locked = signal(true);

  /** Puts a mask of some shape around the middle of the picture, or gives the mask there is another shape. */
  addMask(shape: MaskShape): void {
    const placement = this.placement();
    if (!placement) return;
    if (shape === 'free') {
      this.mode.set('draw');
      return;
    }
    this.mode.set('shape');
    const before = placement.mask;
    if (before) {
      const { widthMm, heightMm } = boxFor(shape, before.widthMm, before.heightMm);
      this.setMask({ shape, x: before.x, y: before.y, widthMm, heightMm, turn: before.turn }, 'mask shape');
      return;
    }
    const { widthMm, heightMm } = finishedSize(placement);
    this.setMask({ shape, x: 0, y: 0, turn: 0, ...boxFor(shape, widthMm * 0.8, heightMm * 0.8) }, 'mask');
  }

  drawn(mask: Mask): void {
    this.mode.set('shape');
    this.setMask(mask, 'drawn mask');
  }

  setMask(mask: Mask | null, label = 'mask'): void {
    // A handle stops where the hoop does; only what is typed or turned beyond it scales the picture down.
    const [, most] = LIMITS.widthMm;
    const limited = mask && { ...mask, widthMm: Math.min(mask.widthMm, most), heightMm: Math.min(mask.heightMm, most) };
    this.place(label, (placement) => ({ ...placement, mask: limited }));
    if (!mask) this.mode.set('shape');
  }

  /** Puts the mask aside, to be used again later. */
  keepMask(): void {
    this.store.change('mask put aside', ({ picture }) => {
      if (!picture.mask) return;
      picture.keptMasks = [...picture.keptMasks, picture.mask].slice(-40);
      picture.mask = null;
    });
  }

  useKept(index: number): void {
    const kept = this.store.view()?.picture.keptMasks[index];
    if (kept) this.setMask(kept, 'mask taken out');
  }

  dropKept(index: number): void {
    this.store.change('mask thrown away', ({ picture }) => {
      picture.keptMasks = picture.keptMasks.filter((_, i) => i !== index);
    });
  }

  turn(degrees: number): void {
    const turn = ((((degrees + 180) % 360) + 360) % 360) - 180;
    this.place('rotation', (placement) => ({ ...placement, turn: turn === -180 ? 180 : turn }));
  }

  mirror(mirror: boolean): void {
    this.place('mirror', (placement) => ({ ...placement, mirror }));
  }

  /** Sets one side of the finished size; the other follows while the proportion is locked. */
  resize(side: 'widthMm' | 'heightMm', value: number): void {
    const placement = this.placement();
    if (!placement) return;
    const size = finishedSize(placement);
    const locked = this.locked() || placement.turn % 90 !== 0;
    const least = LIMITS.widthMm[0];
    let factor = value / size[side];
    if (locked) factor = Math.max(factor, least / Math.min(size.widthMm, size.heightMm));
    const x = side === 'widthMm' || locked ? factor : 1;
    const y = side === 'heightMm' || locked ? factor : 1;
    this.place('finished size', (p) => stretch(p, x, y));
  }

  /** Colour of the picture under a place in mm around its middle. */
  sample(x: number, y: number): Promise<Anchor | undefined> {
    const placement = this.placement();
    if (!placement) return Promise.resolve(undefined);
    // Without its mask the middle of the picture is the middle of the hoop.
    const { u, v } = hoopToSource({ ...placement, mask: null }, x, y);
    return this.conversion.sample(u, v);
  }

  private placement(): PictureView['picture'] | undefined {
    return this.store.view()?.picture;
  }

  /** Changes the placement; what would be more than a hoop holds is scaled down, and that is said. */
  private place(label: string, change: (placement: PictureView['picture']) => PictureView['picture']): void {
    const before = this.placement();
    if (!before) return;
    const wanted = change(before);
    const { widthMm, heightMm } = finishedSize(wanted);
    // Smaller than anything that can be sewn: a handle simply stops there.
    if (Math.min(widthMm, heightMm) < LIMITS.widthMm[0]) return;
    const fitted = withinHoop(wanted);
    this.store.change(label, ({ picture }) => assignPlacement(picture, rounded(fitted)));
    if (fitted === wanted) return;
    const asked = this.sizeText(wanted);
    const made = this.sizeText(fitted);
    this.snack
      .open(`${asked} is more than a hoop holds: made ${made}.`, 'Undo', { duration: 8000 })
      .onAction()
      .subscribe(() => this.store.undo());
  }

  private sizeText(placement: Placement): string {
    const { widthMm, heightMm } = finishedSize(placement);
    const unit = this.preferences.unit();
    return `${formatLength(widthMm, unit, 1)} × ${formatLength(heightMm, unit, 1)}`;
  }
}

/** The box of a new mask that fits into another: its shape's own proportion where it has one. */
function boxFor(shape: MaskShape, widthMm: number, heightMm: number): { widthMm: number; heightMm: number } {
  const proportion = MASK_PROPORTION[shape];
  if (!proportion) return { widthMm, heightMm };
  const width = Math.min(widthMm, heightMm * proportion);
  return { widthMm: width, heightMm: width / proportion };
}

const round = (mm: number): number => Math.round(mm * 100) / 100;

function rounded<T extends Placement>(placement: T): T {
  return { ...placement, widthMm: round(placement.widthMm), heightMm: round(placement.heightMm) };
}

function assignPlacement(picture: Draft<PictureView['picture']>, placement: Placement): void {
  picture.widthMm = placement.widthMm;
  picture.heightMm = placement.heightMm;
  picture.turn = placement.turn;
  picture.mirror = placement.mirror;
  if (JSON.stringify(picture.mask) !== JSON.stringify(placement.mask)) picture.mask = placement.mask;
}
