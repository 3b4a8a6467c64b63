import { ChangeDetectionStrategy, Component, computed, type ElementRef, inject, viewChild } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { TRIM } from '@open-kite/core';
import { LucideAngularModule, Pause, Play, SkipBack, SkipForward } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { Preferences } from '../../shared/preferences';
import { formatCount, formatLength } from '../../shared/units';
import { SPEEDS, StudioState } from '../studio-state';

/** Lengths narrower than this share of the ribbon carry no words. */
const LABEL_SHARE = 0.085;
const MOST_TICKS = 400;

/** The sewing order as one ribbon: a length of colour a thread run, in proportion; it can be scrubbed and played. */
@Component({
  selector: 'kite-reel',
  imports: [LucideAngularModule, MatTooltipModule],
  templateUrl: './reel.html',
  styleUrl: './reel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Reel {
  private readonly conversion = inject(Conversion);
  private readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  private readonly ribbon = viewChild.required<ElementRef<HTMLElement>>('ribbon');

  protected readonly icons = { Play, Pause, SkipBack, SkipForward };
  protected readonly speeds = SPEEDS;
  protected readonly count = formatCount;
  protected readonly figures = this.conversion.figures;
  protected readonly likeness = this.conversion.likeness;
  protected readonly likenessFits = this.conversion.likenessFits;
  protected readonly rough = this.conversion.rough;
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
    const stitches = this.conversion.design()?.stitches;
    if (!stitches) return [];
    const places: number[] = [];
    for (let i = 0; i < stitches.count; i++) if (stitches.command[i] === TRIM) places.push(i / stitches.count);
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

  /** Moves to the beginning of the thread run before or after the needle. */
  protected jump(forward: boolean): void {
    const rows = this.state.rows();
    const now = this.state.row() ?? rows;
    const starts = this.conversion.runs().map((run) => run.from);
    const next = forward ? starts.find((s) => s > now) : starts.findLast((s) => s < now);
    this.state.goTo(next ?? (forward ? rows : 0));
  }
}
