import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy, signal } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { NamedThread } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { formatCount } from '../../shared/units';
import { StudioState } from '../studio-state';
import { RenderingActs } from './rendering-acts';
import { ThreadPicker } from './thread-picker';
import { ThreadLabel } from '../../shared/thread-label';

const DONE = { delete: 'deleted', thin: 'thinned', recolour: 'given another thread' } as const;

/** Tidy, for a rendering: lines chosen by thread and by area are deleted, thinned or given another thread. */
@Component({
  selector: 'kite-lines-sheet',
  imports: [MatCheckboxModule, ThreadPicker, ThreadLabel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <strong>Lines</strong>
      <p class="note">Choose lines by their thread, by an area, or by both.</p>
    </section>
    <section aria-label="Lines of these threads">
      <div class="row">
        <strong>Lines of</strong>
        <button type="button" class="link" [disabled]="chosen().size === 0" (click)="chosen.set(noThread)">
          Any thread
        </button>
      </div>
      <ul class="colours">
        @for (thread of threads(); track thread.hex) {
          <li>
            <mat-checkbox class="pick" [checked]="chosen().has(thread.hex)" (change)="toggle(thread.hex)">
              <span class="pair" aria-hidden="true"><span [style.background-color]="thread.hex"></span></span>
              {{ thread | threadLabel }} <small>{{ count(thread.stitches) }} stitches</small>
            </mat-checkbox>
          </li>
        }
      </ul>
    </section>
    <section aria-label="Area">
      <div class="row">
        <strong>Inside</strong>
        <span>
          <button
            type="button"
            class="link"
            [attr.aria-pressed]="state.lassoing()"
            (click)="state.lassoing.set(!state.lassoing())"
          >
            {{ state.lassoing() ? 'Stop drawing' : area().length > 0 ? 'Draw it anew' : 'Draw an area' }}
          </button>
          @if (area().length > 0) {
            <button type="button" class="link" (click)="acts.area.set([])">Everywhere</button>
          }
        </span>
      </div>
      <p class="note">
        {{
          state.lassoing()
            ? 'Draw around the lines on the cloth.'
            : area().length > 0
              ? 'The area is marked on the cloth.'
              : 'Everywhere on the cloth.'
        }}
      </p>
    </section>
    <section aria-label="What is done to them">
      <p class="note">{{ said() }}</p>
      <div class="row">
        <button type="button" class="solid-button second" (click)="change('delete')">Delete</button>
        <button type="button" class="solid-button second" (click)="change('thin')">Thin</button>
      </div>
      <div class="row">
        <span>Another thread</span>
        <kite-thread-picker [hex]="hex()" name="these lines" (chosen)="change('recolour', $event)" />
      </div>
    </section>
    @if (changes().length > 0) {
      <section aria-label="Changes of lines">
        <strong>What you changed</strong>
        <ul class="colours">
          @for (item of changes(); track $index) {
            <li>
              <span class="grow">{{ item.text }}</span>
              <button type="button" class="link" (click)="acts.forgetLines(item.index)">Take back</button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    .pick {
      display: flex;
      flex: 1;
      align-items: center;
      gap: 9px;
      cursor: pointer;
    }
  `,
})
export class LinesSheet implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(RenderingActs);
  protected readonly state = inject(StudioState);

  protected readonly count = formatCount;
  protected readonly noThread: ReadonlySet<string> = new Set();
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly area = this.acts.area;

  protected readonly threads = computed(() => {
    const figures = this.conversion.figures();
    return (this.conversion.design()?.threads ?? []).map((thread, i) => ({
      ...thread,
      stitches: figures?.threads[i]?.stitches ?? 0,
    }));
  });

  /** Colour that a new thread is looked for around. */
  protected readonly hex = computed(() => [...this.chosen()][0] ?? this.threads()[0]?.hex ?? '#888888');

  protected readonly said = computed(() => {
    const n = this.chosen().size;
    const of = n === 0 ? 'every thread' : n === 1 ? 'one thread' : `${n} threads`;
    return `Lines of ${of}, ${this.area().length > 0 ? 'inside the area' : 'everywhere'}:`;
  });

  protected readonly changes = computed(() =>
    (this.store.view()?.rendering.lines ?? []).flatMap(({ kind, threads, area }, index) => {
      if (kind === 'favour') return [];
      const of =
        threads.length === 0 ? 'every thread' : threads.length === 1 ? threads[0] : `${threads.length} threads`;
      return [{ index, text: `Lines of ${of} ${DONE[kind]}, ${area.length > 0 ? 'in an area' : 'everywhere'}` }];
    }),
  );

  protected toggle(hex: string): void {
    this.chosen.update((before) => {
      const next = new Set(before);
      if (!next.delete(hex)) next.add(hex);
      return next;
    });
  }

  protected change(kind: 'delete' | 'thin' | 'recolour', to?: NamedThread): void {
    const threads = [...this.chosen()];
    this.acts.changeLines({ kind, threads, area: [...this.area()], ...(to && { to }) });
    this.acts.area.set([]);
    this.chosen.set(new Set());
  }

  ngOnDestroy(): void {
    this.state.lassoing.set(false);
    this.acts.area.set([]);
  }
}
