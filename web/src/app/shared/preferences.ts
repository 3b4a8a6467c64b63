import { effect, Injectable, signal } from '@angular/core';
import type { Unit } from './units';

/** What a person prefers, kept in this browser. */
@Injectable({ providedIn: 'root' })
export class Preferences {
  readonly unit = signal<Unit>(localStorage.getItem('kite-unit') === 'in' ? 'in' : 'mm');
  readonly trayOpen = signal(localStorage.getItem('kite-tray') !== 'closed');
  /** Place and size of what is chosen are unfolded in the Sheet. */
  readonly placeOpen = signal(localStorage.getItem('kite-place') === 'open');

  /** What the projects on the shelf are sorted by. */
  readonly shelfOrder = signal(localStorage.getItem('kite-shelf') ?? 'changed');

  constructor() {
    effect(() => localStorage.setItem('kite-shelf', this.shelfOrder()));
    effect(() => localStorage.setItem('kite-place', this.placeOpen() ? 'open' : 'closed'));
    effect(() => localStorage.setItem('kite-unit', this.unit()));
    effect(() => localStorage.setItem('kite-tray', this.trayOpen() ? 'open' : 'closed'));
  }
}
