import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { colourWord, stitchKindOf, svgPath, type BarePiece, type Piece } from '@open-kite/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { LucideAngularModule, Palette, PanelLeftClose, PanelLeftOpen, Ruler } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { Preferences } from '../../shared/preferences';
import { formatCount } from '../../shared/units';
import { ColourActs } from '../colours/colour-acts';
import { ThreadMenu } from '../colours/thread-menu';
import { ObjectRow } from '../objects/object-row';
import { colourOfThread, PieceActs } from '../pieces/piece-acts';
import { around, StudioState } from '../studio-state';
import { thumbOf, type ThumbShape } from '../thumb';
import { TrayDrag, type TrayDrop } from './tray-drag';
import { filterCounts, FILTERS, rowsOf, type Filter, type Row } from './tray-rows';
import { ThreadLabel } from '../../shared/thread-label';

interface Thumb extends ThumbShape {
  /** Of a line its middle, and how wide it is drawn. */
  readonly line?: { readonly path: string; readonly width: number };
  readonly satin: boolean;
}

/** Height of a row in CSS pixels. */
export const ROW = 44;
/** Rows drawn at once when the first design is listed; the others follow in turns of their own, so that no turn is long. */
const FIRST_ROWS = 3;
const ROWS_IN_SIGHT = 24;

/** What is in the design: its threads, and under each its pieces as small pictures. */
@Component({
  selector: 'kite-tray',
  imports: [
    LucideAngularModule,
    MatMenuModule,
    MatTooltipModule,
    ObjectRow,
    ScrollingModule,
    ThreadMenu,
    TrayDrag,
    ThreadLabel,
  ],
  templateUrl: './tray.html',
  styleUrl: './tray.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.folded]': '!isOpen()' },
})
export class Tray {
  /** It is a drawer of its own, and not folded. */
  readonly whole = input(false);
  private readonly conversion = inject(Conversion);
  private readonly pieceActs = inject(PieceActs);
  protected readonly preferences = inject(Preferences);
  protected readonly isOpen = computed(() => this.whole() || this.preferences.trayOpen());
  protected readonly state = inject(StudioState);
  protected readonly acts = inject(ColourActs);
  protected readonly cupboard = inject(Cupboard);
  private readonly view = viewChild(CdkVirtualScrollViewport);
  protected readonly icons = { Palette, PanelLeftClose, PanelLeftOpen, Ruler };
  protected readonly count = formatCount;
  protected readonly row = ROW;
  protected readonly filter = signal<Filter>('all');
  /** Thumbnails at one scale instead of each as large as it can be. */
  protected readonly trueSize = signal(false);

  private thumbs = new WeakMap<object, Thumb>();
  /** Piece the next choice with shift starts from. */
  private last: number | undefined;

  /** The design listed: a turn behind the one on the stage, so that showing both is not one long task. */
  private readonly listed = signal(this.conversion.design());

  constructor() {
    effect(() => {
      const design = this.conversion.design();
      if (design !== untracked(this.listed)) setTimeout(() => this.listed.set(design));
    });
    effect(() => {
      // Rows are kept from design to design: only the first ones have to be made.
      const grown = this.grown();
      if (!this.listed() || grown === Infinity) return;
      const rows = untracked(this.rows).length;
      setTimeout(() => this.grown.set(grown < Math.min(rows, ROWS_IN_SIGHT) ? grown + FIRST_ROWS : Infinity));
    });
    effect(() => {
      // Thumbnails are drawn anew at another scale.
      this.trueSize();
      this.thumbs = new WeakMap();
    });
    effect(() => {
      // A piece chosen on the stage is brought into sight.
      const selected = this.state.selected();
      if (selected.size !== 1) return;
      const [piece] = selected;
      untracked(() => this.bring(piece));
    });
  }

  protected readonly counts = computed(() => filterCounts(this.listed()));
  /** What there is in the design, in two words. */
  protected readonly contents = computed(() => {
    const design = this.listed();
    if (!design) return '';
    const [n, one] =
      design.pieces.length === 0 && design.stitches.count > 1
        ? [design.threads.length, 'thread']
        : [this.counts().all, 'piece'];
    return `${n} ${n === 1 ? one : `${one}s`}`;
  });
  /** Filters that show something. */
  protected readonly filters = computed(() => {
    const counts = this.counts();
    return FILTERS.filter((filter) => filter === 'all' || counts[filter] > 0 || filter === this.filter()).map(
      (filter) => ({
        filter,
        label: filter === 'all' ? 'All' : filter[0].toUpperCase() + filter.slice(1),
        count: counts[filter],
      }),
    );
  });

  /** What is said while there is no piece. */
  protected readonly waiting = computed(() =>
    this.conversion.design() && this.conversion.state() === 'done'
      ? 'Nothing is sewn yet. What you draw, type or add appears here.'
      : 'Threads and pieces appear here as soon as the picture is converted.',
  );
  protected readonly rows = computed((): readonly Row[] => {
    const design = this.listed();
    return design ? rowsOf(design, this.filter()) : [];
  });
  /** How many rows may be drawn so far. */
  private readonly grown = signal(FIRST_ROWS);
  protected readonly shownRows = computed(() =>
    this.grown() < this.rows().length ? this.rows().slice(0, this.grown()) : this.rows(),
  );

  protected readonly threads = computed(() => {
    const design = this.listed();
    if (!design) return [];
    const figures = this.conversion.figures();
    return design.threads.map((thread, index) => ({
      ...thread,
      stitches: figures?.threads[index]?.stitches ?? 0,
      colour: colourOfThread(design, index),
    }));
  });

  private readonly largest = computed(() =>
    (this.listed()?.pieces ?? []).reduce(
      (most, { bounds }) => Math.max(most, bounds.right - bounds.left, bounds.bottom - bounds.top),
      1,
    ),
  );

  protected readonly trackRow = (_: number, row: Row): string => row.key;

  protected choose(index: number, event: MouseEvent): void {
    if (event.shiftKey && this.last !== undefined) {
      const shown = this.rows().flatMap((row) => (row.kind === 'pieces' ? row.pieces : []));
      const [a, b] = [shown.indexOf(this.last), shown.indexOf(index)].sort((p, q) => p - q);
      if (a >= 0) {
        this.state.selectAll([...this.state.selected(), ...shown.slice(a, b + 1)]);
        return;
      }
    }
    this.last = index;
    this.state.select(index, event.ctrlKey || event.metaKey || event.shiftKey);
  }

  /** Chooses everything the filter shows. */
  protected chooseShown(): void {
    this.state.selectAll(this.rows().flatMap((row) => (row.kind === 'pieces' ? row.pieces : [])));
  }

  protected chooseThread(thread: number): void {
    this.state.selectAll(
      this.rows().flatMap((row) => (row.kind === 'pieces' && row.thread === thread ? row.pieces : [])),
    );
  }

  protected find(index: number): void {
    const piece = this.pieceAt(index);
    if (piece) this.state.lookAt(around(piece.bounds));
  }

  protected restore(bare: number): void {
    const decision = this.listed()?.barePieces[bare]?.decision;
    if (decision !== undefined) this.pieceActs.forget('piece sewn again', [decision]);
  }

  /** A dragged piece, with all that are chosen if it is one of them, goes to a thread or before a piece of its own. */
  protected dropped({ piece, row: key, onto }: TrayDrop): void {
    const row = this.rows().find((r) => r.key === key);
    if (!row || row.kind === 'bare') return;
    const chosen = this.state.selected().has(piece) ? [...this.state.selected()] : [piece];
    if (this.pieceAt(piece)?.thread !== row.thread) {
      this.pieceActs.threadTo(chosen, row.thread);
      return;
    }
    const order = this.listed()?.order ?? [];
    const isOther = (i: number): boolean => this.pieceAt(i)?.thread === row.thread && !chosen.includes(i);
    if (row.kind === 'thread') {
      const first = order.find(isOther);
      if (first !== undefined) this.pieceActs.orderBefore(chosen, first);
    } else if (onto !== undefined && !chosen.includes(onto)) this.pieceActs.orderBefore(chosen, onto);
    else if (onto === undefined) {
      // Beside the last piece of a row: after it.
      const last = row.pieces.filter(isOther).at(-1);
      if (last !== undefined) this.pieceActs.orderBefore(chosen, order[order.indexOf(last) + 1] ?? 'last');
    }
  }

  protected thumb(index: number): (Thumb & { label: string }) | undefined {
    const piece = this.pieceAt(index);
    return (
      piece && {
        ...this.thumbFor(piece),
        label: `${this.state.nameOf(index)}, ${this.kindOf(piece)}, ${piece.areaMm2.toFixed(0)} mm²`,
      }
    );
  }

  protected bareThumb(index: number): (Thumb & { label: string; hex: string }) | undefined {
    const design = this.listed();
    const bare = design?.barePieces[index];
    if (!bare) return undefined;
    const hex = design?.colours[bare.colour]?.hex ?? '#888888';
    return { ...this.thumbFor(bare), label: `Sew again: ${bare.areaMm2.toFixed(0)} mm² of ${colourWord(hex)}`, hex };
  }

  private pieceAt(index: number): Piece | undefined {
    return this.listed()?.pieces[index];
  }

  private thumbFor(piece: Piece | BarePiece): Thumb {
    const known = this.thumbs.get(piece);
    if (known) return known;
    const shape = thumbOf(piece, this.trueSize() ? this.largest() : undefined);
    // How a piece is sewn shows in its picture: lines as strokes, satin with its stitches across.
    const isLine = 'family' in piece && piece.family === 'line' && piece.paths.length > 0;
    const made: Thumb = {
      ...shape,
      satin: 'family' in piece && piece.family === 'column',
      line: isLine
        ? {
            path: piece.paths.map((curve) => svgPath(curve, 2, false)).join(''),
            width: Math.max(piece.widthMm, shape.side / 18),
          }
        : undefined,
    };
    this.thumbs.set(piece, made);
    return made;
  }

  /** How a piece is sewn, and where it is held in the order. */
  private kindOf(piece: Piece): string {
    const lock = this.pieceActs.lockOf(piece);
    const kind = stitchKindOf(piece.kind).name.toLowerCase();
    return lock ? `${kind}, locked ${lock}` : kind;
  }

  private bring(piece: number): void {
    const view = this.view();
    const at = this.rows().findIndex((row) => row.kind === 'pieces' && row.pieces.includes(piece));
    if (!view || at < 0) return;
    const top = at * ROW;
    const from = view.measureScrollOffset();
    if (top < from || top + ROW > from + view.getViewportSize()) view.scrollToIndex(Math.max(0, at - 2));
  }
}
