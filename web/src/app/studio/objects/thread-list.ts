import { CdkListbox, CdkOption, type ListboxValueChangeEvent } from '@angular/cdk/listbox';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { threadKey, type ThreadChoice } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { findThreads, readColour, type ListedThread } from '../../cupboard/thread-search';
import { threadLabel } from '../../shared/thread-label';
import { PieceActs } from '../pieces/piece-acts';

/** What was taken from the list: a thread or a colour, or that of the picture at this place. */
export type ThreadPick = { readonly choice: ThreadChoice; readonly hex: string } | 'here';

interface Row {
  readonly id: string;
  readonly hex?: string;
  readonly name: string;
  /** What is said of it on its right. */
  readonly said: string;
  readonly pick: ThreadPick | 'own';
}

interface Group {
  readonly name: string;
  readonly rows: readonly Row[];
}

/** Rows of the drawer and of the charts that are listed: those nearest to the colour there is. */
const MOST_IN_DRAWER = 8;
const MOST_OF_CHARTS = 40;

/** Every thread there is to take, as swatches with names: of the design, of the drawer, of the charts, or any colour. */
@Component({
  selector: 'kite-thread-list',
  imports: [CdkListbox, CdkOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #search
      type="text"
      autocomplete="off"
      spellcheck="false"
      aria-label="Name, number or colour of a thread"
      placeholder="Name, number or #colour"
      [value]="words()"
      (input)="words.set(search.value)"
      (keydown.enter)="takeFirst($event)"
      (keydown.arrowdown)="intoList($event)"
    />
    <ul cdkListbox aria-label="Threads" [cdkListboxValue]="none" (cdkListboxValueChange)="take($event)">
      @for (group of groups(); track group.name) {
        <li role="presentation" class="group">{{ group.name }}</li>
        @for (row of group.rows; track row.id) {
          <li [cdkOption]="row" [attr.data-thread]="row.id" [cdkOptionTypeaheadLabel]="row.name">
            <span class="swatch" [class.any]="!row.hex" [style.background-color]="row.hex" aria-hidden="true"></span>
            <span class="name">{{ row.name }}</span>
            <span class="said">{{ row.said }}</span>
          </li>
        }
      } @empty {
        <li role="presentation" class="group">No thread is called that.</li>
      }
    </ul>
    <input
      #own
      class="visually-hidden"
      type="color"
      tabindex="-1"
      aria-hidden="true"
      [value]="hex()"
      (change)="picked.emit({ choice: { hex: own.value }, hex: own.value })"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      width: 300px;
      max-height: min(420px, 80vh);
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--paper);
      box-shadow: 0 6px 22px rgb(0 0 0 / 18%);
    }
    input[type='text'] {
      margin: 8px;
      padding: 7px 10px;
      border: 1px solid var(--mute);
      border-radius: 8px;
      background: none;
      color: var(--ink);
      font: inherit;
    }
    input[type='text']:focus-visible {
      border-color: transparent;
      outline-offset: -1px;
    }
    ul {
      flex: 1;
      margin: 0;
      padding: 0 4px 6px;
      overflow-y: auto;
      list-style: none;
    }
    .group {
      padding: 8px 8px 3px;
      color: var(--mute);
      font-size: 12.5px;
    }
    .cdk-option {
      display: flex;
      align-items: center;
      gap: 9px;
      padding: 5px 8px;
      border-radius: 6px;
      cursor: pointer;
    }
    .cdk-option:hover,
    .cdk-option:focus {
      background: var(--ember-soft);
    }
    .swatch {
      flex: none;
      width: 18px;
      height: 18px;
      border: 1px solid var(--line);
      border-radius: 4px;
    }
    .any {
      background: linear-gradient(45deg, var(--ember), var(--glass));
    }
    .name {
      flex: 1;
      min-width: 0;
    }
    .said {
      color: var(--mute);
      font-size: 12.5px;
      white-space: nowrap;
    }
  `,
})
export class ThreadList {
  private readonly conversion = inject(Conversion);
  private readonly cupboard = inject(Cupboard);
  private readonly pieces = inject(PieceActs);
  private readonly search = viewChild.required<ElementRef<HTMLInputElement>>('search');
  private readonly own = viewChild.required<ElementRef<HTMLInputElement>>('own');
  private readonly list = viewChild.required<CdkListbox<Row>>(CdkListbox);
  /** Nothing stays chosen: what is taken closes the list. */
  protected readonly none: readonly Row[] = [];

  /** The colour there is: what is nearest to it stands first. */
  readonly hex = input.required<string>();
  /** What is offered for the colour the picture has there; without it that is not offered. */
  readonly here = input<string>();
  readonly picked = output<ThreadPick>();

  protected readonly words = signal('');

  protected readonly groups = computed((): Group[] => {
    const typed = readColour(this.words());
    const near = typed ?? this.hex();
    const words = typed ? '' : this.words();
    const listed = this.cupboard
      .charts()
      .flatMap(({ id, name, threads }) =>
        threads.map((thread): ListedThread => ({ ...thread, chart: id, chartName: name })),
      );
    const spools = (thread: ListedThread): number =>
      this.cupboard.entries().get(threadKey(thread.chart, thread.code))?.spools ?? 0;
    const found = findThreads(listed, words, near, 'chart');
    const inDrawer = found.filter((thread) => spools(thread) > 0).slice(0, MOST_IN_DRAWER);
    const ofCharts = found.filter((thread) => !inDrawer.includes(thread)).slice(0, MOST_OF_CHARTS);
    const rowOf = (thread: ListedThread, said: string): Row => ({
      id: `${thread.chart} ${thread.code}`,
      hex: thread.hex,
      name: threadLabel(thread),
      said,
      pick: { choice: { chart: thread.chart, code: thread.code }, hex: thread.hex },
    });
    return [
      { name: 'In this design', rows: this.ofDesign(words, typed) },
      {
        name: 'In the drawer',
        rows: inDrawer.map((thread) => rowOf(thread, counted(spools(thread)))),
      },
      { name: 'From the charts', rows: ofCharts.map((thread) => rowOf(thread, thread.chartName)) },
      { name: 'Any colour', rows: this.colours(typed) },
    ].filter(({ rows }) => rows.length > 0);
  });

  constructor() {
    afterNextRender(() => this.search().nativeElement.focus());
  }

  private ofDesign(words: string, typed: string | undefined): Row[] {
    const here = this.here();
    const own: Row[] =
      here !== undefined && words.trim() === '' && typed === undefined
        ? [{ id: 'here', name: here, said: '', pick: 'here' }]
        : [];
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    const threads = typed === undefined ? (this.conversion.design()?.threads ?? []) : [];
    const rows = threads.flatMap((thread, i): Row[] => {
      const choice = this.pieces.choiceOf(i);
      const name = threadLabel(thread);
      const fits = wanted.every((word) => name.toLowerCase().includes(word));
      return choice && fits
        ? [{ id: `design ${i}`, hex: thread.hex, name, said: '', pick: { choice, hex: thread.hex } }]
        : [];
    });
    return [...own, ...rows];
  }

  private colours(typed: string | undefined): Row[] {
    if (typed !== undefined)
      return [{ id: 'typed', hex: typed, name: typed, said: '', pick: { choice: { hex: typed }, hex: typed } }];
    return this.words().trim() === '' ? [{ id: 'own', name: 'Another colour …', said: '', pick: 'own' }] : [];
  }

  protected take({ value }: ListboxValueChangeEvent<Row>): void {
    const row = value.at(0);
    if (row) this.choose(row);
  }

  protected takeFirst(event: Event): void {
    event.preventDefault();
    const groups = this.groups();
    // A colour that was typed out is meant as it is.
    const exact = groups.flatMap(({ rows }) => rows).find(({ id }) => id === 'typed');
    const row = exact ?? groups.at(0)?.rows.at(0);
    if (row && this.words().trim() !== '') this.choose(row);
  }

  protected intoList(event: Event): void {
    event.preventDefault();
    this.list().focus();
  }

  private choose({ pick }: Row): void {
    if (pick === 'own') this.own().nativeElement.click();
    else this.picked.emit(pick);
  }
}

const counted = (spools: number): string => `${spools} spool${spools === 1 ? '' : 's'}`;
