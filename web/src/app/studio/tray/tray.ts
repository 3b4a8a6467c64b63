import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { figuresOf, type ColourShare, type Piece } from '@open-kite/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { LucideAngularModule, Palette, PanelLeftClose, PanelLeftOpen } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { Preferences } from '../../shared/preferences';
import { formatCount } from '../../shared/units';
import { ColourActs } from '../colours/colour-acts';
import { ThreadMenu } from '../colours/thread-menu';
import { StudioState } from '../studio-state';
import { thumbOf, type ThumbShape } from '../thumb';

interface Thumb extends ThumbShape {
  readonly index: number;
  readonly label: string;
}

/** Thumbnails shown of a thread before the rest is asked for; fewer where there are very many pieces. */
const FIRST_THUMBS = 24;
const FEW_THUMBS = 8;
const MANY_PIECES = 200;

/** What is in the design: its threads, and under each its pieces as small pictures. */
@Component({
  selector: 'kite-tray',
  imports: [LucideAngularModule, MatMenuModule, MatTooltipModule, ThreadMenu],
  templateUrl: './tray.html',
  styleUrl: './tray.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.folded]': '!preferences.trayOpen()' },
})
export class Tray {
  private readonly conversion = inject(Conversion);
  protected readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  protected readonly acts = inject(ColourActs);
  protected readonly cupboard = inject(Cupboard);
  protected readonly icons = { Palette, PanelLeftClose, PanelLeftOpen };
  protected readonly count = formatCount;

  private readonly opened = signal<ReadonlySet<string>>(new Set());
  private readonly thumbs = new WeakMap<Piece, Thumb>();

  /** The design listed: a turn behind the one on the stage, so that showing both is not one long task. */
  private readonly listed = signal(this.conversion.design());

  constructor() {
    effect(() => {
      const design = this.conversion.design();
      if (design !== untracked(this.listed)) setTimeout(() => this.listed.set(design));
    });
  }

  protected readonly total = computed(() => this.listed()?.pieces.length ?? 0);

  protected readonly threads = computed(() => {
    const design = this.listed();
    if (!design) return [];
    const figures = figuresOf(design.stitches, design.threads.length);
    const opened = this.opened();
    const groups = design.threads.map((thread, index) => ({
      ...thread,
      index,
      stitches: figures.threads[index].stitches,
      key: `${thread.chart} ${thread.code}`,
      // Of several colours that share the thread, the largest speaks for it.
      colour: design.colours
        .filter((colour) => colour.thread === index)
        .reduce<ColourShare | undefined>((most, c) => (most && most.share >= c.share ? most : c), undefined),
      all: [] as number[],
    }));
    // Pieces stand in sewing order under their thread.
    for (const index of design.order) groups[design.pieces[index].thread].all.push(index);
    const first = design.pieces.length > MANY_PIECES ? FEW_THUMBS : FIRST_THUMBS;
    return groups.map((group) => {
      const shown = opened.has(group.key) ? group.all : group.all.slice(0, first);
      return {
        ...group,
        rest: group.all.length - shown.length,
        pieces: shown.map((i) => this.thumbOf(design.pieces[i], i)),
      };
    });
  });

  protected showAll(key: string): void {
    this.opened.update((set) => new Set([...set, key]));
  }

  protected choose(index: number, event: MouseEvent): void {
    this.state.select(index, event.shiftKey || event.ctrlKey || event.metaKey);
  }

  private thumbOf(piece: Piece, index: number): Thumb {
    const known = this.thumbs.get(piece);
    if (known) return known;
    const what = piece.kind === 'running' ? 'line' : 'fill';
    const made: Thumb = {
      index,
      ...thumbOf(piece),
      label: `Piece ${piece.id.slice(1)}, ${what}, ${piece.areaMm2.toFixed(0)} mm²`,
    };
    this.thumbs.set(piece, made);
    return made;
  }
}
