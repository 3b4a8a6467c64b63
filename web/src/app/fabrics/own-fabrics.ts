import { HttpClient } from '@angular/common/http';
import { computed, inject, Injectable, signal } from '@angular/core';
import { ownFabricSchema, ownFabricsSchema, type NewFabric, type OwnFabric } from '@open-kite/contract';
import { FABRICS, parseMeasured, type DesignCloth } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { told } from '../api/api';
import type { Choice } from '../shared/choice-field';
import { SWATCH } from '../shared/swatches';

const ROOT = '/api/fabrics';
/** Name of a measured cloth of the open design that is not among those kept here. */
const OF_DESIGN = 'measured';

/** Fabrics that were measured, kept for all projects. */
@Injectable({ providedIn: 'root' })
export class OwnFabrics {
  private readonly http = inject(HttpClient);
  readonly all = signal<readonly OwnFabric[]>([]);
  private asked = false;

  /** Fabrics to choose from: those that were measured first. */
  readonly choices = computed((): Choice[] => [
    ...this.all().map(({ id, hex, measured }) => ({ id, hex, name: measured.name, group: 'Measured on a card' })),
    ...FABRICS.map(({ id, name, hex }) => ({
      id,
      name,
      hex,
      picture: SWATCH.fabric(id),
      group: this.all().length > 0 ? 'Known' : undefined,
    })),
  ]);

  /** Fetches them, once; whoever only offers them does without where that fails. */
  offer(): void {
    if (this.asked) return;
    this.asked = true;
    void this.load().catch(() => (this.asked = false));
  }

  /** @throws ApiError */
  async load(): Promise<void> {
    const all = await firstValueFrom(told(this.http.get<OwnFabric[]>(ROOT), ownFabricsSchema));
    this.all.set(all.map((fabric) => ({ ...fabric, measured: parseMeasured(fabric.measured) })));
  }

  async add(fabric: NewFabric): Promise<OwnFabric> {
    const made = await firstValueFrom(told(this.http.post<OwnFabric>(ROOT, fabric), ownFabricSchema));
    await this.load();
    return made;
  }

  async rename({ id, ...fabric }: OwnFabric, name: string): Promise<void> {
    const measured = { ...fabric.measured, name };
    await firstValueFrom(told(this.http.put<OwnFabric>(`${ROOT}/${id}`, { ...fabric, measured }), ownFabricSchema));
    await this.load();
  }

  async remove(id: string): Promise<void> {
    await firstValueFrom(told(this.http.delete(`${ROOT}/${id}`)));
    await this.load();
  }

  async restore(id: string): Promise<void> {
    await firstValueFrom(told(this.http.post(`${ROOT}/${id}/restore`, {})));
    await this.load();
  }

  /** Which of the choices a cloth is. */
  choiceOf({ fabric, measured }: DesignCloth): string {
    if (!measured) return fabric;
    const said = JSON.stringify(measured);
    return this.all().find((own) => JSON.stringify(own.measured) === said)?.id ?? OF_DESIGN;
  }

  /** Choices for a design: what it was measured as is one of them, wherever that was. */
  choicesFor(cloth: DesignCloth): Choice[] {
    if (this.choiceOf(cloth) !== OF_DESIGN) return this.choices();
    const name = cloth.measured?.name ?? '';
    return [{ id: OF_DESIGN, name, hex: cloth.hex, group: 'Measured on a card' }, ...this.choices()];
  }

  /** The cloth a choice stands for; undefined where it is the one there is. */
  clothOf(id: string): DesignCloth | undefined {
    const own = this.all().find((fabric) => fabric.id === id);
    if (own) return { fabric: own.fabric, hex: own.hex, measured: own.measured };
    const known = FABRICS.find((fabric) => fabric.id === id);
    return known && { fabric: known.id, hex: known.hex };
  }
}
