import { Injectable } from '@angular/core';
import { createStore, del, get, set, type UseStore } from 'idb-keyval';
import type { HistoryEntry } from '@open-kite/contract';
import type { Recipe } from '@open-kite/core';

/** Changes of a project that the server does not have yet, as they were made on one of its revisions. */
export interface UnsentChanges {
  readonly revision: number;
  readonly name: string;
  readonly recipe: Recipe;
  readonly entries: readonly HistoryEntry[];
  readonly position: number;
  /** Older entries that the server had not handed out. */
  readonly base: number;
  /** Entries from the start that the server held as they are here. */
  readonly shared: number;
}

/**
 * Keeps changes in the browser until the server has them, so that they outlive the tab. A browser that keeps nothing is no
 * reason to disturb the work.
 */
@Injectable({ providedIn: 'root' })
export class Unsent {
  private store: UseStore | undefined;

  async keep(id: string, changes: UnsentChanges): Promise<void> {
    await this.quietly((store) => set(id, changes, store));
  }

  async drop(id: string): Promise<void> {
    await this.quietly((store) => del(id, store));
  }

  async find(id: string): Promise<UnsentChanges | undefined> {
    return this.quietly((store) => get<UnsentChanges>(id, store));
  }

  private async quietly<T>(work: (store: UseStore) => Promise<T>): Promise<T | undefined> {
    try {
      return await work((this.store ??= createStore('open-kite', 'unsent')));
    } catch {
      return undefined;
    }
  }
}
