import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Finding } from '@open-kite/core';
import { formatCount } from '../../shared/units';
import { Conversion } from '../../convert/conversion';
import { Problems } from '../pieces/problems';
import { RepairPreview } from './repair-preview';
import { TidyActs, type Counted, type FindingGroup } from './tidy-acts';
import { ObjectSection } from '../objects/object-section';

const SAID: Readonly<Record<Finding['level'], string>> = {
  problem: 'Will fail',
  advice: 'May fail',
  waste: 'Wasteful',
};

/** Of a kind so many are listed at first. */
const FIRST = 4;

/** What would go wrong at the machine or is wasted: seen in a list and on the cloth, repaired by one touch, or let be. */
@Component({
  selector: 'kite-tidy-sheet',
  imports: [ObjectSection, Problems],
  templateUrl: './tidy-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './tidy-sheet.scss'],
  providers: [RepairPreview],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TidySheet {
  protected readonly acts = inject(TidyActs);
  protected readonly repairs = inject(RepairPreview);
  private readonly conversion = inject(Conversion);
  protected readonly said = SAID;
  protected readonly count = formatCount;

  private readonly whole = signal<ReadonlySet<string>>(new Set());
  protected readonly ready = computed(() => this.conversion.design() !== undefined);

  protected shown(group: FindingGroup): readonly Finding[] {
    const current = this.acts.current();
    const isWhole = this.whole().has(group.kind) || (current && group.findings.indexOf(current) >= FIRST);
    return isWhole ? group.findings : group.findings.slice(0, FIRST);
  }

  protected showAll({ kind }: FindingGroup): void {
    this.whole.update((before) => new Set([...before, kind]));
  }

  protected costOf({ cost }: Finding): string {
    if (!cost) return '';
    const parts = [
      cost.stitches ? `${formatCount(cost.stitches)} stitches` : '',
      cost.trims ? `${cost.trims} ${cost.trims === 1 ? 'trim' : 'trims'}` : '',
      cost.changes ? `${cost.changes} ${cost.changes === 1 ? 'thread change' : 'thread changes'}` : '',
    ].filter(Boolean);
    return parts.length > 0 ? `Costs ${parts.join(', ')}.` : '';
  }

  /** Shows the cloth one way, and keeps it so. */
  protected see(isRepaired: boolean): void {
    this.repairs.blinking.set(false);
    this.repairs.show(isRepaired);
  }

  /** What would be counted otherwise, in words. */
  protected comesOf(after: Counted): string {
    const before = this.acts.counted();
    const parts = [
      [after.stitches - before.stitches, 0, 'stitch', 'stitches'],
      [after.minutes - before.minutes, 1, 'min', 'min'],
      [after.trims - before.trims, 0, 'trim', 'trims'],
      [after.findings - before.findings, 0, 'finding', 'findings'],
    ] as const;
    const said = parts.flatMap(([by, digits, one, many]) => {
      const changed = byMuch(by, digits);
      return changed === '' ? [] : [`${changed} ${Math.abs(by) === 1 ? one : many}`];
    });
    return said.length > 0 ? said.join(', ') : 'no figure changes';
  }

  protected change(before: number, after: number, digits = 0): string {
    return byMuch(after - before, digits) || 'as before';
  }
}

/** A difference with its sign; empty where there is none. */
function byMuch(by: number, digits: number): string {
  const size = Number(Math.abs(by).toFixed(digits));
  if (size === 0) return '';
  return `${by > 0 ? '+' : '−'}${digits === 0 ? formatCount(size) : size.toFixed(digits)}`;
}
