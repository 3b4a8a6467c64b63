import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { STITCH } from '@open-kite/core';
import { LucideAngularModule, Pause, Play, SkipBack, SkipForward } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { Preferences } from '../../shared/preferences';
import { formatCount, formatLength } from '../../shared/units';
import { PieceActs } from '../pieces/piece-acts';
import { SPEEDS, STEPS_BY, StudioState } from '../studio-state';

/** Lengths narrower than this share of the ribbon carry no words. */
const LABEL_SHARE = 0.085;
const MOST_TICKS = 400;

/** The sewing order as one ribbon: a length of colour a thread run, in proportion; it can be scrubbed and played. */
@Component({
  selector: 'kite-reel',
  imports: [LucideAngularModule, MatMenuModule, MatTooltipModule],
  templateUrl: './reel.html',
  styleUrl: './reel.scss',
  host: { role: 'region', 'aria-label': 'Reel' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Reel {
  private readonly conversion = inject(Conversion);
  private readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  private readonly ribbon = viewChild.required<ElementRef<HTMLElement>>('ribbon');

  protected readonly icons = { Play, Pause, SkipBack, SkipForward };
  private readonly acts = inject(PieceActs);
  protected readonly speeds = SPEEDS;
  protected readonly stepsBy = STEPS_BY;
  protected readonly count = formatCount;
  protected readonly figures = this.conversion.figures;
  protected readonly likeness = this.conversion.likeness;
  protected readonly likenessFits = this.conversion.likenessFits;
  protected readonly underWay = this.conversion.stale;
  protected readonly threadCount = computed(() => this.conversion.design()?.threads.length ?? 0);
  protected readonly size = computed(() => {
    const figures = this.figures();
    const unit = this.preferences.unit();
    return figures
      ? `${formatLength(figures.widthMm, unit, 0).replace(/ .*/, '')} × ${formatLength(figures.heightMm, unit, 0)}`
      : '';
  });

  protected readonly lengths = computed(() => {
    const design = this.conversion.design();
    const rows = this.state.rows();
    return this.conversion.runs().map((run) => {
      const thread = design?.threads[run.thread];
      const share = (run.to - run.from) / Math.max(1, rows);
      const label = share >= LABEL_SHARE ? `${thread?.name} · ${formatCount(run.stitches)}` : '';
      return {
        ...run,
        hex: thread?.hex,
        share,
        label,
        name: `${thread?.code} ${thread?.name}: ${formatCount(run.stitches)} stitches`,
      };
    });
  });

  protected readonly ticks = computed(() => {
    const rows = Math.max(1, this.state.rows());
    const places = this.conversion.cuts().map((row) => row / rows);
    // More than can be told apart are thinned out evenly.
    const every = Math.ceil(places.length / MOST_TICKS);
    return places.filter((_, i) => i % every === 0);
  });

  protected readonly at = computed(() => {
    const rows = this.state.rows();
    return rows === 0 ? 1 : (this.state.row() ?? rows) / rows;
  });

  protected readonly said = computed(() => {
    const row = this.state.row();
    const rows = this.state.rows();
    const run = this.conversion.runs().find((r) => row !== undefined && row >= r.from && row < r.to);
    const thread = run && this.conversion.design()?.threads[run.thread];
    return row === undefined ? 'the whole design' : `step ${row} of ${rows}${thread ? ', ' + thread.name : ''}`;
  });

  private dragging = false;

  protected pressed(event: PointerEvent): void {
    if (event.button !== 0) return;
    this.dragging = true;
    this.ribbon().nativeElement.setPointerCapture(event.pointerId);
    this.scrub(event);
  }

  protected moved(event: PointerEvent): void {
    if (this.dragging) this.scrub(event);
  }

  protected released(): void {
    this.dragging = false;
  }

  private scrub(event: PointerEvent): void {
    const box = this.ribbon().nativeElement.getBoundingClientRect();
    const share = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
    this.state.goTo(share * this.state.rows());
  }

  protected keyed(event: KeyboardEvent): void {
    const rows = this.state.rows();
    const now = this.state.row() ?? rows;
    const to: Readonly<Record<string, number>> = {
      ArrowRight: now + 1,
      ArrowLeft: now - 1,
      PageUp: now + rows / 20,
      PageDown: now - rows / 20,
      Home: 0,
      End: rows,
    };
    if (!(event.key in to)) return;
    event.preventDefault();
    this.state.goTo(to[event.key]);
  }

  /** Rows at which the needle stops when it steps by pieces or threads. */
  private readonly stops = computed((): readonly number[] => {
    if (this.state.stepBy() === 'thread') return this.conversion.runs().map((run) => run.from);
    const list = this.conversion.design()?.stitches;
    const stops: number[] = [];
    for (let i = 0; list && i < list.count; i++) {
      if (list.command[i] === STITCH && (stops.length === 0 || list.piece[i] !== list.piece[stops[stops.length - 1]])) {
        stops.push(i);
      }
    }
    return stops;
  });

  /** Steps the needle on or back, by what is chosen. */
  protected step(forward: boolean): void {
    const rows = this.state.rows();
    const now = this.state.row() ?? rows;
    if (this.state.stepBy() === 'stitch') {
      this.state.goTo(now + (forward ? 1 : -1));
      return;
    }
    const next = forward ? this.stops().find((s) => s > now) : this.stops().findLast((s) => s < now);
    this.state.goTo(next ?? (forward ? rows : 0));
  }

  /** The length being dragged, and the one it would be sewn before; one past the last for the end. */
  protected readonly dragged = signal<{ readonly run: number; readonly before: number } | undefined>(undefined);
  private from = 0;

  protected grab(event: PointerEvent, run: number): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.from = event.clientX;
    this.dragged.set({ run, before: run });
  }

  protected pull(event: PointerEvent): void {
    const drag = this.dragged();
    if (!drag || Math.abs(event.clientX - this.from) < 4) return;
    event.stopPropagation();
    const box = this.ribbon().nativeElement.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    let [at, before] = [0, 0];
    for (const { share: own } of this.lengths()) {
      if (share > at + own / 2) before++;
      at += own;
    }
    this.dragged.set({ ...drag, before });
  }

  protected drop(): void {
    const drag = this.dragged();
    this.dragged.set(undefined);
    if (drag) this.moveRun(drag.run, drag.before);
  }

  /** Where in the ribbon a dragged length would come to lie, 0 to 1; undefined where it stays. */
  protected readonly landing = computed(() => {
    const drag = this.dragged();
    if (!drag || drag.before === drag.run || drag.before === drag.run + 1) return undefined;
    return this.lengths()
      .slice(0, drag.before)
      .reduce((sum, { share }) => sum + share, 0);
  });

  protected nudged(event: KeyboardEvent, run: number): void {
    if (!event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return;
    event.preventDefault();
    event.stopPropagation();
    this.moveRun(run, event.key === 'ArrowLeft' ? run - 1 : run + 2);
  }

  /** Sews the pieces of a length before another length, or last. */
  private moveRun(run: number, before: number): void {
    const runs = this.conversion.runs();
    if (before < 0 || before > runs.length || before === run || before === run + 1) return;
    const goal = before < runs.length ? this.piecesOf(before)[0] : 'last';
    const moved = this.piecesOf(run);
    if (moved.length > 0 && goal !== undefined) this.acts.orderBefore(moved, goal);
    else this.acts.say('The layers of a picture are sewn in their own order, from the ground up.');
  }

  /** Pieces sewn in a length, in order. */
  private piecesOf(run: number): number[] {
    const list = this.conversion.design()?.stitches;
    const { from, to } = this.conversion.runs()[run];
    const most = this.conversion.design()?.pieces.length ?? 0;
    const pieces = new Set<number>();
    for (let i = from; list && i < to; i++) {
      // Layers of a rendering have an order of their own.
      if (list.command[i] === STITCH && list.piece[i] < most) pieces.add(list.piece[i]);
    }
    return [...pieces];
  }
}
