import { computed, inject, Injectable, signal } from '@angular/core';
import {
  hoopToSource,
  PIECES_METHOD,
  renderMethodOf,
  renderValues,
  type LineDecision,
  type MixDecision,
  type NamedThread,
  type Points,
} from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';

const MOST_STROKES = 60;

/** What can be done to renderings: every act is a choice in the recipe. */
@Injectable()
export class RenderingActs {
  private readonly store = inject(ProjectStore);

  /** The rendering in use; undefined while pieces are sewn. */
  readonly method = computed(() => {
    const id = this.store.view()?.method ?? PIECES_METHOD;
    return renderMethodOf(id);
  });

  /** What its options are set to. */
  readonly values = computed(() => {
    const method = this.method();
    return method ? renderValues(method, this.store.view()?.rendering.values[method.id] ?? {}) : {};
  });

  /** Whether lines drawn on the cloth lead the rendering. */
  readonly led = computed(() => this.method()?.led === true && this.values()['direction'] === 'drawn');

  setMethod(id: string): void {
    this.store.change('method', (recipe) => (recipe.method = id));
  }

  setOption(name: string, label: string, value: number | string): void {
    const method = this.method();
    if (!method) return;
    this.store.change(label.toLowerCase(), ({ rendering }) => {
      (rendering.values[method.id] ??= {})[name] = value;
    });
  }

  /** Options go back to what is usual. */
  resetOptions(): void {
    const method = this.method();
    if (method) this.store.change('usual settings', ({ rendering }) => void delete rendering.values[method.id]);
  }

  setThreads(threads: readonly NamedThread[]): void {
    const method = this.method();
    if (!method) return;
    this.store.change('threads', ({ rendering }) => {
      rendering.threads[method.id] = [...threads];
      // Threads that somebody names are not chosen for the picture any more.
      const values = rendering.values[method.id];
      if (Object.hasOwn(rendering.values, method.id) && values['palette'] === 'chosen') {
        rendering.values[method.id] = { ...values, palette: 'named' };
      }
    });
  }

  /** Says something of a thread of the mix, instead of what was said of it before. */
  decide(label: string, decision: MixDecision): void {
    this.store.change(label, ({ rendering }) => {
      const isPlace = ({ kind }: MixDecision): boolean => kind === 'first' || kind === 'last';
      const isSame = (other: MixDecision): boolean =>
        decision.kind !== 'keep' &&
        other.kind !== 'keep' &&
        isPlace(other) === isPlace(decision) &&
        other.hex === decision.hex;
      rendering.mix = [...rendering.mix.filter((other) => !isSame(other)), decision];
    });
  }

  forget(index: number): void {
    this.store.change('mix of threads', ({ rendering }) => void rendering.mix.splice(index, 1));
  }

  /** A line on the cloth becomes a direction for the rendering. */
  addStroke(line: Points): void {
    const stroke = this.onPicture(line);
    this.store.change('direction drawn', ({ rendering }) => {
      rendering.strokes = [...rendering.strokes.slice(1 - MOST_STROKES), stroke];
    });
  }

  /** Area that changes of lines are meant for, as shares of the picture's sides; everywhere where it is empty. */
  readonly area = signal<readonly number[]>([]);

  /** Whether what is drawn round next is what matters most. */
  readonly favouring = signal(false);

  /** A line drawn around something on the cloth becomes the area that is meant, or what matters most. */
  setArea(line: Points): void {
    const area = this.onPicture(line);
    if (this.favouring()) this.changeLines({ kind: 'favour', threads: [], area });
    else this.area.set(area);
    this.favouring.set(false);
  }

  changeLines(decision: LineDecision): void {
    this.store.change(decision.kind === 'favour' ? 'what matters most' : `lines: ${decision.kind}`, ({ rendering }) => {
      rendering.lines = [...rendering.lines, decision] as typeof rendering.lines;
    });
  }

  forgetLines(index: number): void {
    this.store.change('change of lines', ({ rendering }) => void rendering.lines.splice(index, 1));
  }

  /** Places on the cloth as shares of the picture's sides. */
  private onPicture(line: Points): number[] {
    const picture = this.store.view()?.picture;
    const out: number[] = [];
    for (let i = 0; picture && i < line.length; i += 2) {
      const { u, v } = hoopToSource(picture, line[i], line[i + 1]);
      out.push(Number(u.toFixed(4)), Number(v.toFixed(4)));
    }
    return out;
  }

  clearStrokes(): void {
    this.store.change('directions removed', ({ rendering }) => (rendering.strokes = []));
  }

  setBudget(budget: number | null): void {
    this.store.change('budget', (recipe) => (recipe.budget = budget));
  }
}
