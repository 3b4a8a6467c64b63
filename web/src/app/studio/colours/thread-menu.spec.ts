import { TestBed } from '@angular/core/testing';
import type { ColourShare } from '@open-kite/core';
import { Cupboard } from '../../cupboard/cupboard';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { ThreadMenu } from './thread-menu';

describe('ThreadMenu', () => {
  it('offers the five nearest threads, the own colour, and the cupboard', async () => {
    const design = await smallDesign();
    const store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    await TestBed.inject(Cupboard).load();
    const fixture = TestBed.createComponent(ThreadMenu);
    const colour = design.colours.find((c) => c.hex === '#d8602a') as ColourShare;
    fixture.componentRef.setInput('colour', colour);
    fixture.componentRef.setInput('name', 'OWN-02 Shade 2');
    await fixture.whenStable();
    const trigger = (fixture.nativeElement as HTMLElement).querySelector('button') as HTMLButtonElement;
    expect(trigger.getAttribute('aria-label')).toBe('Choose the thread for OWN-02 Shade 2');
    trigger.click();
    await fixture.whenStable();
    const items = [...document.querySelectorAll<HTMLElement>('.mat-mdc-menu-panel [mat-menu-item]')];
    expect(items.length).toBe(7);
    expect(items[0].innerText).toContain('SL-2 Ember');
    expect(items[0].innerText).toContain('same 0.0');
    expect(items[6].getAttribute('href')).toBe('/threads?near=%23d8602a');
    items[0].click();
    expect(store.view().colours.decisions).toEqual([
      { kind: 'thread', at: colour.anchor, chart: 'saltline', code: 'SL-2' },
    ]);
  });
});
