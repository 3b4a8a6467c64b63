import { computed, inject, Injectable, signal } from '@angular/core';
import { threadKey, type ChartContent, type StashEntry } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import type { CupboardChart, SewnThread } from '@open-kite/contract';
import { Api } from '../api/api';

/** Thread charts and the drawer, shared by the cupboard's page and the studio. */
@Injectable({ providedIn: 'root' })
export class Cupboard {
  private readonly api = inject(Api);

  /** All charts, those taken out of the cupboard included. */
  readonly all = signal<readonly CupboardChart[]>([]);
  readonly charts = computed(() => this.all().filter((chart) => !chart.deleted));
  readonly stash = signal<readonly StashEntry[]>([]);
  readonly entries = computed(() => new Map(this.stash().map((entry) => [threadKey(entry.chart, entry.code), entry])));

  /** Fetches both. @throws ApiError */
  async load(): Promise<void> {
    const [charts, stash] = await Promise.all([firstValueFrom(this.api.charts()), firstValueFrom(this.api.stash())]);
    this.all.set(charts);
    this.stash.set(stash);
  }

  async setStash(entries: readonly StashEntry[]): Promise<void> {
    this.stash.set(await firstValueFrom(this.api.setStash(entries)));
  }

  /** Takes what was sewn off the drawer. @returns how many spools fewer there are */
  async takeOff(threads: readonly SewnThread[], spoolM: number): Promise<number> {
    const spools = (): number => this.stash().reduce((sum, entry) => sum + entry.spools, 0);
    const before = spools();
    this.stash.set(await firstValueFrom(this.api.takeOff({ threads, spoolM })));
    return before - spools();
  }

  async add(content: ChartContent): Promise<CupboardChart> {
    const chart = await firstValueFrom(this.api.addChart(content));
    this.all.update((all) => [...all, chart]);
    return chart;
  }

  async save(chart: CupboardChart, content: ChartContent): Promise<CupboardChart> {
    const saved = await firstValueFrom(this.api.saveChart(chart.id, chart.revision, content));
    this.all.update((all) => all.map((c) => (c.id === saved.id ? saved : c)));
    return saved;
  }

  async remove(id: string): Promise<void> {
    await firstValueFrom(this.api.removeChart(id));
    this.mark(id, true);
  }

  async restore(id: string): Promise<void> {
    await firstValueFrom(this.api.restoreChart(id));
    this.mark(id, false);
  }

  private mark(id: string, deleted: boolean): void {
    this.all.update((all) => all.map((chart) => (chart.id === id ? { ...chart, deleted } : chart)));
  }
}
