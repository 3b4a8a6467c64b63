import { effect, Injectable, signal } from '@angular/core';
import type { Prices } from '@open-kite/core';
import { number, object } from 'yup';
import type { Unit } from './units';

/** Highest price that is taken. */
export const MOST_PRICE = 1_000_000;

const price = () => number().strict(true).required().min(0).max(MOST_PRICE);
const pricesSchema = object({ threadKm: price(), bobbinKm: price(), hour: price(), piece: price() });
const NO_PRICES: Prices = { threadKm: 0, bobbinKm: 0, hour: 0, piece: 0 };

/** Prices that were kept; none where what is kept are no prices. */
function keptPrices(): Prices {
  try {
    return pricesSchema.validateSync(JSON.parse(localStorage.getItem('kite-prices') ?? 'null'), { strict: true });
  } catch {
    return NO_PRICES;
  }
}

/** What a person prefers, kept in this browser. */
@Injectable({ providedIn: 'root' })
export class Preferences {
  readonly unit = signal<Unit>(localStorage.getItem('kite-unit') === 'in' ? 'in' : 'mm');
  readonly trayOpen = signal(localStorage.getItem('kite-tray') !== 'closed');
  /** Place and size of what is chosen are unfolded in the Sheet. */
  readonly placeOpen = signal(localStorage.getItem('kite-place') === 'open');

  /** What the projects on the shelf are sorted by. */
  readonly shelfOrder = signal(localStorage.getItem('kite-shelf') ?? 'changed');

  /** What a shop pays, in its own money. */
  readonly prices = signal<Prices>(keptPrices());
  readonly costsOpen = signal(localStorage.getItem('kite-costs') === 'open');

  constructor() {
    effect(() => localStorage.setItem('kite-prices', JSON.stringify(this.prices())));
    effect(() => localStorage.setItem('kite-costs', this.costsOpen() ? 'open' : 'closed'));
    effect(() => localStorage.setItem('kite-shelf', this.shelfOrder()));
    effect(() => localStorage.setItem('kite-place', this.placeOpen() ? 'open' : 'closed'));
    effect(() => localStorage.setItem('kite-unit', this.unit()));
    effect(() => localStorage.setItem('kite-tray', this.trayOpen() ? 'open' : 'closed'));
  }
}
