import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { objectFrame, type PieceDecision, type PieceRef } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { PieceActs } from './piece-acts';

/** Something the import, the trace or the decisions left for the user to know. */
interface Problem {
  readonly text: string;
  /** Place in mm, where it has one. */
  readonly at?: { readonly x: number; readonly y: number };
  /** What can be done about it. */
  readonly repair?: { readonly label: string; readonly act: () => void };
}

const FIRST = 6;
/** What is shown around a problem, in mm. */
const AROUND = 9;

const SAID: Readonly<Record<PieceDecision['kind'], string>> = {
  bare: 'left bare',
  keep: 'to be sewn however small',
  sew: 'given a stitch kind',
  thread: 'given another thread',
  order: 'moved in the order',
  join: 'combined with another',
  apart: 'broken apart',
  hidden: 'cut or kept below',
  stitch: 'given settings of its own',
  guides: 'given guide lines',
  gradient: 'given a gradient',
  entry: 'given an entry',
  exit: 'given an exit',
  place: 'moved, scaled or turned',
  connect: 'given a way to it',
  stop: 'given a stop',
  rows: 'given needle points by hand',
};

/** Every repair the importer made and every problem it could not repair, each with the place where it is. */
@Component({
  selector: 'kite-problems',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problems().length > 0) {
      <section aria-label="To look at">
        <div class="row">
          <strong>To look at</strong><span class="figure">{{ problems().length }}</span>
        </div>
        <ul>
          @for (problem of shown(); track $index) {
            <li>
              <span class="mark" aria-hidden="true"></span>
              <span class="grow">{{ problem.text }}</span>
              <span class="acts">
                @if (problem.at; as at) {
                  <button type="button" class="link" (click)="show(at)">Show</button>
                }
                @if (problem.repair; as repair) {
                  <button type="button" class="link" (click)="repair.act()">{{ repair.label }}</button>
                }
              </span>
            </li>
          }
        </ul>
        @if (problems().length > shown().length) {
          <button type="button" class="link" (click)="all.set(true)">Show all {{ problems().length }}</button>
        }
      </section>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    ul {
      display: grid;
      gap: 8px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 8px;
      font-size: 13px;
      overflow-wrap: anywhere;
    }
    .acts {
      display: flex;
      flex: none;
      flex-direction: column;
      align-items: end;
    }
    .figure {
      color: var(--mute);
    }
  `,
})
export class Problems {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly acts = inject(PieceActs);
  protected readonly all = signal(false);

  protected readonly problems = computed((): Problem[] => {
    const design = this.conversion.design();
    const recipe = this.store.view();
    if (!design || !recipe) return [];
    const art = design.problems.map(({ text, x, y }): Problem => ({
      text,
      at: x === undefined || y === undefined ? undefined : { x, y },
    }));
    const lost = design.lostPieceDecisions.flatMap((index): Problem[] => {
      const decision = recipe.decisions[index];
      if (!decision) return [];
      return [
        {
          text: `A piece ${SAID[decision.kind]} cannot be found now. It comes back by itself when its shape does.`,
          at: placeOf(decision.at, objectFrame(recipe.objects, decision.at.object)),
          repair: { label: 'Forget', act: () => this.acts.forget('forgotten piece', [index]) },
        },
      ];
    });
    const small = [...design.tooSmall]
      .sort((a, b) => b.areaMm2 - a.areaMm2)
      .map((area): Problem => ({
        text: `${area.areaMm2.toFixed(2)} mm² of ${area.hex} is too small to sew.`,
        at: area,
        repair: { label: 'Sew it', act: () => this.acts.keep(area) },
      }));
    return [...art, ...lost, ...small];
  });

  protected readonly shown = computed(() =>
    this.all() ? this.problems().slice(0, 300) : this.problems().slice(0, FIRST),
  );

  protected show({ x, y }: { x: number; y: number }): void {
    this.state.lookAt({ left: x - AROUND, top: y - AROUND, width: 2 * AROUND, height: 2 * AROUND });
  }
}

function placeOf(
  { anchor }: PieceRef,
  { toHoop }: ReturnType<typeof objectFrame>,
): { x: number; y: number } | undefined {
  return anchor && toHoop(anchor.u, anchor.v);
}
