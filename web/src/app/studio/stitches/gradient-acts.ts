import { computed, inject, Injectable } from '@angular/core';
import {
  GRADIENT_STOPS,
  hoopToSource,
  inverseOf,
  mapPoint,
  mixHex,
  mixMisfit,
  type AreaGradient,
  type GradientChoice,
  type GradientStopChoice,
  type Piece,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { freshName } from '../../shared/fresh-name';

/** Two threads that stay further than this from their gradient want one between them. */
const WANTS_MIDDLE = 1.5;

/** A stop that would bring two threads nearer to the gradient: CIEDE2000 as it is, and with it. */
export interface MiddleOffer {
  /** The new stop's index. */
  readonly index: number;
  readonly hex: string;
  readonly now: number;
  readonly then: number;
}

/** Stops keep this far from each other. */
const APART = 0.02;
/** A thread more is offered where it leaves less than this share of the difference. */
const WORTH_IT = 0.7;

/** Gradients over pieces: every act is a decision on each of the pieces one gradient is laid over. */
@Injectable()
export class GradientActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly pieces = inject(PieceActs);

  /** The gradient of what is chosen, where that is one. */
  readonly gradient = computed((): AreaGradient | undefined => {
    const all = this.conversion.design()?.pieces ?? [];
    const found = new Map<string, AreaGradient>();
    for (const i of this.state.selected()) {
      const gradient = all.at(i)?.gradient?.gradient;
      if (!gradient) return undefined;
      found.set(gradient.id, gradient);
    }
    return found.size === 1 ? [...found.values()][0] : undefined;
  });

  /** Pieces a gradient can be laid over: chosen areas and columns without one. */
  readonly plain = computed(() => {
    const all = this.conversion.design()?.pieces ?? [];
    return [...this.state.selected()].filter((i) => all.at(i) && !all[i].gradient && all[i].family !== 'line');
  });

  readonly mostStops = GRADIENT_STOPS[1];
  readonly leastStops = GRADIENT_STOPS[0];

  /** Lays one gradient over all chosen pieces, from their left to their right, into another thread of the design. */
  lay(): void {
    const design = this.conversion.design();
    const indices = this.plain();
    if (!design || indices.length === 0) return;
    const chosen = indices.map((i) => design.pieces[i]);
    const left = Math.min(...chosen.map(({ bounds }) => bounds.left));
    const right = Math.max(...chosen.map(({ bounds }) => bounds.right));
    const top = Math.min(...chosen.map(({ bounds }) => bounds.top));
    const bottom = Math.max(...chosen.map(({ bounds }) => bounds.bottom));
    const own = chosen[0].thread;
    const other = design.threads.findIndex((_, i) => i !== own);
    const fill: GradientChoice = {
      id: this.freshId(design.pieces),
      shape: 'linear',
      way: this.wayOf(left, (top + bottom) / 2, right, (top + bottom) / 2),
      stops: [
        { at: 0, paint: this.paintOf(own) },
        { at: 1, paint: other >= 0 ? this.paintOf(other) : { bare: true } },
      ],
      layers: 'over',
    };
    this.pieces.setGradient('gradient', indices, fill);
  }

  remove(): void {
    const gradient = this.gradient();
    if (gradient) this.pieces.setGradient('gradient taken away', this.basesOf(gradient.id), null);
  }

  /** Changes the gradient of what is chosen, on all pieces it is laid over. */
  change(label: string, edit: Partial<Omit<GradientChoice, 'id'>>): void {
    const gradient = this.gradient();
    if (!gradient) return;
    const fill = { ...this.choiceOf(gradient), ...edit };
    this.pieces.setGradient(label, this.basesOf(gradient.id), fill);
  }

  setStop(index: number, edit: Partial<GradientStopChoice>): void {
    const gradient = this.gradient();
    if (!gradient) return;
    const { stops } = this.choiceOf(gradient);
    const least = index > 0 ? stops[index - 1].at + APART : 0;
    const most = index + 1 < stops.length ? stops[index + 1].at - APART : 1;
    const next = { ...stops[index], ...edit };
    const at = Number(Math.min(most, Math.max(least, next.at)).toFixed(3));
    this.change('gradient stop', { stops: stops.with(index, { ...next, at }) });
  }

  /** Where two threads cannot mix the gradient's colours well, what a thread between them would do; the worst. */
  readonly middle = computed((): MiddleOffer | undefined => {
    const gradient = this.gradient();
    const design = this.conversion.design();
    if (!gradient || !design || gradient.stops.length >= this.mostStops) return undefined;
    const { stops } = gradient;
    const threadAt = (stop: number): string => {
      const piece = design.pieces.find(({ gradient: part }) => part?.gradient.id === gradient.id && part.stop === stop);
      return piece ? design.threads[piece.thread].hex : design.fabric.hex;
    };
    let worst: MiddleOffer | undefined;
    for (let k = 0; k + 1 < stops.length; k++) {
      if (!stops[k].paint || !stops[k + 1].paint || stops[k + 1].at - stops[k].at < 2 * APART) continue;
      const [from, to, under, over] = [stops[k].hex, stops[k + 1].hex, threadAt(k), threadAt(k + 1)];
      const now = mixMisfit(from, to, under, over);
      if (now <= Math.max(WANTS_MIDDLE, worst?.now ?? 0)) continue;
      const hex = mixHex(from, to, 0.5);
      const then = (mixMisfit(from, hex, under, hex) + mixMisfit(hex, to, hex, over)) / 2;
      if (then < now * WORTH_IT) worst = { index: k + 1, hex, now, then };
    }
    return worst;
  });

  /** Another stop in the widest gap, in the colour that is there. */
  addStop(): void {
    const gradient = this.gradient();
    if (!gradient) return;
    const { stops } = gradient;
    let widest = 0;
    for (let k = 1; k + 1 < stops.length; k++) {
      if (stops[k + 1].at - stops[k].at > stops[widest + 1].at - stops[widest].at) widest = k;
    }
    this.insertStop(widest + 1, mixHex(stops[widest].hex, stops[widest + 1].hex, 0.5));
  }

  /** Another stop half way to the one before. */
  insertStop(index: number, hex: string): void {
    const gradient = this.gradient();
    if (!gradient || gradient.stops.length >= this.mostStops) return;
    const { stops } = this.choiceOf(gradient);
    const at = Number(((stops[index - 1].at + stops[index].at) / 2).toFixed(3));
    this.change('gradient stop', { stops: stops.toSpliced(index, 0, { at, paint: { hex } }) });
  }

  removeStop(index: number): void {
    const gradient = this.gradient();
    if (!gradient || gradient.stops.length <= this.leastStops) return;
    this.change('gradient stop', { stops: this.choiceOf(gradient).stops.filter((_, i) => i !== index) });
  }

  /** Moves start or end, in mm. */
  setWay(end: 'start' | 'end', x: number, y: number): void {
    const gradient = this.gradient();
    if (!gradient) return;
    const { x1, y1, x2, y2 } = gradient;
    this.change('gradient', { way: end === 'start' ? this.wayOf(x, y, x2, y2) : this.wayOf(x1, y1, x, y) });
  }

  private choiceOf({ id, shape, x1, y1, x2, y2, stops, layers }: AreaGradient): GradientChoice {
    return {
      id,
      shape,
      way: this.wayOf(x1, y1, x2, y2),
      layers,
      stops: stops.map(({ at, hex, paint }) => ({
        at,
        paint: !paint ? { bare: true } : 'label' in paint ? { hex } : paint,
      })),
    };
  }

  private wayOf(x1: number, y1: number, x2: number, y2: number): [number, number, number, number] {
    const placement = this.store.view()?.picture;
    if (!placement) return [0, 0, 1, 0];
    const [index] = this.state.selected();
    const moved = index === undefined ? undefined : this.conversion.design()?.pieces.at(index)?.moved;
    const home = (x: number, y: number): [number, number] => (moved ? mapPoint(inverseOf(moved), x, y) : [x, y]);
    const [a, b] = [hoopToSource(placement, ...home(x1, y1)), hoopToSource(placement, ...home(x2, y2))];
    return [a.u, a.v, b.u, b.v];
  }

  private paintOf(thread: number): GradientStopChoice['paint'] {
    const { chart, code, hex } = this.conversion.design()?.threads[thread] ?? {
      chart: 'own',
      code: '',
      hex: '#808080',
    };
    return chart === 'own' ? { hex } : { chart, code };
  }

  /** Pieces that stand for all threads of a gradient, one for each shape it is laid over. */
  private basesOf(id: string): number[] {
    const all = this.conversion.design()?.pieces ?? [];
    return all.flatMap(({ gradient, partOf }, i) => (gradient?.gradient.id === id && partOf === i ? [i] : []));
  }

  private freshId(pieces: readonly Piece[]): string {
    return freshName(
      pieces.map(({ gradient }) => gradient?.gradient.id),
      'g',
    );
  }
}
