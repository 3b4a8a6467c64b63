import { effect, Injectable, signal } from '@angular/core';
import type { Unit } from './units';

/** What a person prefers, kept in this browser. */
@Injectable({ providedIn: 'root' })
export class Preferences {
  readonly unit = signal<Unit>(localStorage.getItem('kite-unit') === 'in' ? 'in' : 'mm');
  readonly trayOpen = signal(localStorage.getItem('kite-tray') !== 'closed');

  constructor() {
    effect(() => localStorage.setItem('kite-unit', this.unit()));
    effect(() => localStorage.setItem('kite-tray', this.trayOpen() ? 'open' : 'closed'));
  }
}
