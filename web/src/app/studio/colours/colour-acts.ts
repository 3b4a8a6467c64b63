import { computed, inject, Injectable } from '@angular/core';
import {
  fromHex,
  nearestThreads,
  stashKeys,
  stashOf,
  type Anchor,
  type ColourDecision,
  type ColourShare,
  type Match,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';

/** What can be done to the colours of a picture; every act is a decision in the recipe. */
@Injectable()
export class ColourActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly cupboard = inject(Cupboard);
  private readonly open = inject(OpenPicture);

  /** Charts that colours are matched to; all of them while the picture's colours are kept. */
  readonly usable = computed(() => {
    const colours = this.store.view()?.colours;
    const named = this.cupboard.all().filter((chart) => colours?.charts.includes(chart.id));
    const charts = named.length > 0 ? named : this.cupboard.charts();
    return colours?.stashOnly ? stashOf(charts, stashKeys(this.cupboard.stash())) : charts;
  });

  /** Threads nearest to a colour, best first. */
  nearest(hex: string, count = 5): Match[] {
    return nearestThreads(fromHex(hex), this.usable(), count);
  }

  /** One colour joins another; what was said of it alone is forgotten. */
  merge(from: ColourShare, into: ColourShare): void {
    if (from === into) return;
    this.decide('merged colours', { kind: 'merge', at: from.anchor, into: into.anchor }, from.decisions);
  }

  moveShade(shade: Anchor, into: ColourShare): void {
    this.decide('moved shade', { kind: 'move', at: shade, into: into.anchor });
  }

  split(colour: ColourShare): void {
    this.decide('split colour', { kind: 'split', at: colour.anchor });
  }

  setBare(colour: ColourShare, bare: boolean): void {
    if (colour.bare === 'ground' || (bare && this.isGround(colour))) {
      this.store.change('ground', ({ picture }) => (picture.dropGround = bare));
    } else if (bare) this.decide('left bare', { kind: 'bare', at: colour.anchor });
    else this.forget('sewn again', this.of(colour, 'bare'));
  }

  setPinned(colour: ColourShare, pinned: boolean): void {
    if (pinned) this.decide('pinned colour', { kind: 'pin', at: colour.anchor });
    else this.forget('unpinned colour', this.of(colour, 'pin'));
  }

  /** Makes a colour of the picture one of those it is reduced to. */
  pick(anchor: Anchor): void {
    this.decide('picked colour', { kind: 'pin', at: anchor });
  }

  chooseThread(colour: ColourShare, chart: string, code: string): void {
    this.decide('thread', { kind: 'thread', at: colour.anchor, chart, code }, this.of(colour, 'thread'));
  }

  /** Forgets the thread chosen for one colour: it is matched like the others. */
  matchAgain(colour: ColourShare): void {
    this.forget('matched thread', this.of(colour, 'thread'));
  }

  hasThread(colour: ColourShare): boolean {
    return this.of(colour, 'thread').length > 0;
  }

  /** Matches all colours to some charts; none keeps the picture's colours. Threads chosen singly are forgotten. */
  matchAll(charts: readonly string[]): void {
    this.store.change('thread charts', ({ colours }) => {
      colours.charts = [...charts];
      colours.stashOnly = colours.stashOnly && charts.length > 0;
      colours.decisions = colours.decisions.filter((decision) => decision.kind !== 'thread');
    });
  }

  before(colour: ColourShare, other: ColourShare): void {
    this.decide('order of colours', { kind: 'rank', at: colour.anchor, before: other.anchor });
  }

  /** Takes decisions back, by their place in the recipe. */
  forget(label: string, indices: readonly number[]): void {
    this.store.change(label, ({ colours }) => {
      colours.decisions = colours.decisions.filter((_, i) => !indices.includes(i));
    });
  }

  private decide(label: string, decision: ColourDecision, instead: readonly number[] = []): void {
    this.store.change(label, ({ colours }) => {
      const kept = colours.decisions.filter((_, i) => !instead.includes(i));
      colours.decisions = [...kept, decision] as typeof colours.decisions;
    });
  }

  private of(colour: ColourShare, kind: ColourDecision['kind']): number[] {
    const decisions = this.store.view()?.colours.decisions ?? [];
    return colour.decisions.filter((i) => decisions[i]?.kind === kind);
  }

  private isGround(colour: ColourShare): boolean {
    const at = this.open.result()?.groundColour ?? -1;
    return at >= 0 && this.conversion.design()?.colours[at] === colour;
  }
}
