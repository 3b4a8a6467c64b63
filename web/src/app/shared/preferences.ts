import { effect, Injectable, signal, type WritableSignal } from '@angular/core';
import type { Prices } from '@open-kite/core';
import { number, object } from 'yup';
import type { Unit } from './units';

/** Highest price that is taken. */
export const MOST_PRICE = 1_000_000;

const price = () => number().strict(true).required().min(0).max(MOST_PRICE);
const pricesSchema = object({ threadKm: price(), bobbinKm: price(), hour: price(), piece: price() });
const USUAL_SPOOL_M = 1000;
const NO_PRICES: Prices = { threadKm: 0, bobbinKm: 0, hour: 0, piece: 0 };

/** Prices in a text; none where it has no prices. */
function pricesIn(text: string | null): Prices {
  try {
    return pricesSchema.validateSync(JSON.parse(text ?? 'null'), { strict: true });
  } catch {
    return NO_PRICES;
  }
}

/** Length of a spool in a text; that of a usual one where it has none. */
function spoolIn(text: string | null): number {
  const metres = Number(text);
  return text !== null && metres >= 10 && metres <= 20_000 ? metres : USUAL_SPOOL_M;
}

/** A signal that is kept in this browser under a name. */
function kept<T>(name: string, read: (text: string | null) => T, write: (value: T) => string): WritableSignal<T> {
  const value = signal(read(localStorage.getItem(name)));
  effect(() => localStorage.setItem(name, write(value())));
  return value;
}

/** Whether something is open. */
const open = (name: string, usual = false): WritableSignal<boolean> =>
  kept(
    name,
    (text) => (text === null ? usual : text === 'open'),
    (isOpen) => (isOpen ? 'open' : 'closed'),
  );

/** What a person prefers, kept in this browser. */
@Injectable({ providedIn: 'root' })
export class Preferences {
  readonly unit = kept<Unit>('kite-unit', (text) => (text === 'in' ? 'in' : 'mm'), String);
  readonly trayOpen = open('kite-tray', true);
  /** Parts of Sheets that are unfolded, by their names. */
  readonly unfolded = kept<ReadonlySet<string>>(
    'kite-folds',
    (text) => new Set((text ?? '').split(' ').filter(Boolean)),
    (names) => [...names].join(' '),
  );
  /** What the projects on the shelf are sorted by. */
  readonly shelfOrder = kept('kite-shelf', (text) => text ?? 'changed', String);
  /** What a shop pays, in its own money. */
  readonly prices = kept('kite-prices', pricesIn, JSON.stringify);
  /** Metres a spool holds. */
  readonly spoolM = kept('kite-spool', spoolIn, String);
  /** The parts of the studio were pointed at once. */
  readonly lookedRound = kept(
    'kite-looked-round',
    (text) => text === 'yes',
    (done) => (done ? 'yes' : 'no'),
  );

  /** Unfolds a part of a Sheet, or folds it. */
  unfold(name: string, isOpen: boolean): void {
    if (this.unfolded().has(name) === isOpen) return;
    const names = new Set(this.unfolded());
    if (isOpen) names.add(name);
    else names.delete(name);
    this.unfolded.set(names);
  }
}
