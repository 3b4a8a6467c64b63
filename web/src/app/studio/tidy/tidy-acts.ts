import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  CHECKS,
  checkName,
  ignore,
  isIgnored,
  LEVELS,
  repaired,
  type Finding,
  type Recipe,
  type Repair,
  type SewingFigures,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';

/** Findings of one kind, the worst first. */
export interface FindingGroup {
  readonly kind: string;
  readonly name: string;
  /** Why it matters at the machine. */
  readonly why: string;
  readonly level: Finding['level'];
  readonly findings: readonly Finding[];
  /** How many of them can be repaired at once. */
  readonly repairable: number;
}

/** Figures that a repair may change. */
export interface Counted {
  readonly stitches: number;
  readonly minutes: number;
  readonly trims: number;
  readonly findings: number;
}

/** Counts the figures of a design, and what was found in it. */
export const countedOf = (figures: SewingFigures | undefined, findings: number): Counted => ({
  stitches: figures?.stitches ?? 0,
  minutes: figures?.minutes.oneNeedle ?? 0,
  trims: figures?.trims ?? 0,
  findings,
});

/** What a repair did. */
export interface Effect {
  readonly label: string;
  readonly before: Counted;
  /** Undefined while the design is made anew. */
  readonly after: Counted | undefined;
}

/** What is shown around a finding, in mm. */
const AROUND = 7;

/** What was found in the design, which of it is looked at, and what is done about it. */
@Injectable()
export class TidyActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);

  /** How many things were looked for. */
  readonly checks = CHECKS.length;
  readonly underWay = computed(() => !this.conversion.findingsFit() || this.conversion.stale());

  private readonly told = computed(() => {
    const recipe = this.store.recipe();
    const found = this.conversion.findings();
    return recipe ? found.filter((finding) => !isIgnored(finding, recipe)) : found;
  });
  readonly ignored = computed(() => this.conversion.findings().length - this.told().length);

  /** Findings grouped by kind; groups with the worst first. */
  readonly groups = computed((): FindingGroup[] => {
    const kinds = new Map<string, Finding[]>();
    for (const finding of this.told()) kinds.set(finding.kind, [...(kinds.get(finding.kind) ?? []), finding]);
    return [...kinds]
      .map(([kind, findings]) => ({
        kind,
        name: checkName(kind),
        why: findings[0].why,
        level: findings[0].level,
        findings,
        repairable: findings.filter(({ repairs }) => repairs.length > 0).length,
      }))
      .sort((a, b) => LEVELS.indexOf(a.level) - LEVELS.indexOf(b.level));
  });

  /** All findings in the order of the list. */
  readonly list = computed(() => this.groups().flatMap(({ findings }) => findings));
  /** The finding looked at, by its place in the list. */
  readonly at = signal<number | undefined>(undefined);
  readonly current = computed(() => this.list().at(this.at() ?? -1 - this.list().length));

  private readonly done = signal<Omit<Effect, 'after'> | undefined>(undefined);
  /** What the last repair did. */
  readonly effect = computed((): Effect | undefined => {
    const done = this.done();
    return done && { ...done, after: this.underWay() ? undefined : this.counted() };
  });

  constructor() {
    // After a change the list is another one: the place in it stays, as far as it goes.
    effect(() => {
      const last = this.list().length - 1;
      this.at.update((at) => (at === undefined || last < 0 ? undefined : Math.min(at, last)));
    });
  }

  /** What is counted now. */
  counted(): Counted {
    return countedOf(this.conversion.figures(), this.told().length);
  }

  /** Looks at a finding: the stage goes there, and its pieces are chosen. */
  look(finding: Finding): void {
    this.at.set(this.list().indexOf(finding));
    const { at, pieces } = finding;
    const design = this.conversion.design();
    this.state.selectAll((design?.pieces ?? []).flatMap(({ id }, i) => (pieces.includes(id) ? [i] : [])));
    if (at) this.state.lookAt({ left: at.x - AROUND, top: at.y - AROUND, width: 2 * AROUND, height: 2 * AROUND });
  }

  /** Goes on to the next finding, or back. */
  step(by: 1 | -1): void {
    const list = this.list();
    if (list.length === 0) return;
    const at = this.at() ?? (by === 1 ? -1 : 0);
    this.look(list[(at + by + list.length) % list.length]);
  }

  repair(finding: Finding, repair: Repair): void {
    this.carryOut([repair], `repaired: ${checkName(finding.kind).toLowerCase()}`);
  }

  /** The first repair of every finding of a kind. */
  repairAll({ kind, findings }: FindingGroup): void {
    const repairs = findings.flatMap(({ repairs: all }) => all.slice(0, 1));
    this.carryOut(repairs, `repaired all: ${checkName(kind).toLowerCase()}`);
  }

  ignore(finding: Finding): void {
    this.done.set(undefined);
    this.store.changeWhole('finding ignored', (recipe) => {
      recipe.ignored = ignore(recipe, finding);
    });
  }

  /** Tells again what was ignored. */
  tellAll(): void {
    this.store.changeWhole('ignored findings told again', (recipe) => {
      delete recipe.ignored;
    });
  }

  takeBack(): void {
    this.done.set(undefined);
    this.store.undo();
  }

  private carryOut(repairs: readonly Repair[], label: string): void {
    if (repairs.length === 0) return;
    this.done.set({ label, before: this.counted() });
    this.store.changeWhole(label, (recipe) => {
      const after = repairs.reduce(repaired, recipe as unknown as Recipe) as unknown as Draft<Recipe>;
      recipe.decisions = after.decisions;
      recipe.stitches = after.stitches;
      recipe.order = after.order;
      recipe.objects = after.objects;
    });
  }
}
