import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design, ThreadChoice } from '@open-kite/core';
import { Cupboard } from '../../cupboard/cupboard';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { ThreadField } from './thread-field';

@Component({
  imports: [ThreadField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<kite-thread-field
    label="Thread"
    [paint]="paint()"
    [here]="here()"
    (chosen)="chosen.push($event)"
    (hexChosen)="hexes.push($event)"
    (hereChosen)="asked = asked + 1"
  />`,
})
class Host {
  readonly paint = signal<ThreadChoice | undefined>({ hex: '#c21f26' });
  readonly here = signal<string | undefined>(undefined);
  readonly chosen: ThreadChoice[] = [];
  readonly hexes: string[] = [];
  asked = 0;
}

describe('ThreadField', () => {
  let fixture: ComponentFixture<Host>;
  let design: Design;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const list = (): HTMLElement | null => document.querySelector('kite-thread-list');
  const field = (): HTMLInputElement => list()?.querySelector('input') as HTMLInputElement;
  const rows = (): string[] =>
    [...(list()?.querySelectorAll('[data-thread]') ?? [])].map((row) =>
      [...row.querySelectorAll('.name, .said')]
        .map(({ textContent }) => textContent)
        .join(' ')
        .trim(),
    );
  const groups = (): string[] => [...(list()?.querySelectorAll('.group') ?? [])].map((g) => g.textContent.trim());

  async function open(): Promise<void> {
    host().querySelector('button')?.click();
    await fixture.whenStable();
  }
  async function type(text: string): Promise<void> {
    field().value = text;
    field().dispatchEvent(new Event('input'));
    await fixture.whenStable();
  }
  async function press(key: string, target: EventTarget = field()): Promise<void> {
    const keyCode = { Enter: 13, ArrowDown: 40, Escape: 27, ' ': 32 }[key];
    target.dispatchEvent(new KeyboardEvent('keydown', { key, keyCode, bubbles: true }));
    await fixture.whenStable();
  }

  beforeEach(async () => {
    design = await smallDesign();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), fakeStore()) });
    const cupboard = TestBed.inject(Cupboard);
    const threads = [
      { code: '11', name: 'Buoy', hex: '#c8242c' },
      { code: '12', name: 'Kelp', hex: '#205040' },
      { code: '13', name: 'Fog', hex: '#d8dce0' },
    ];
    cupboard.all.set([{ id: 'quay', name: 'Quay', revision: 1, shipped: true, deleted: false, threads }] as never);
    cupboard.stash.set([{ chart: 'quay', code: '13', spools: 2 }] as never);
    fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
  });
  afterEach(() => document.querySelectorAll('.cdk-overlay-container').forEach((each) => (each.innerHTML = '')));

  it('lists threads of the design, of the drawer and of the charts, the nearest first, and any colour', async () => {
    await open();
    expect(groups()).toEqual(['In this design', 'In the drawer', 'From the charts', 'Any colour']);
    const all = rows();
    expect(all.slice(0, design.threads.length).length).toBe(design.threads.length);
    expect(all.slice(design.threads.length)).toEqual([
      '13 Fog 2 spools',
      '11 Buoy Quay',
      '12 Kelp Quay',
      'Another colour …',
    ]);
    expect(document.activeElement).toBe(field());
  });

  it('takes what is found by its name, and gives the field the keys again', async () => {
    await open();
    await type('kel');
    expect(rows()).toEqual(['12 Kelp Quay']);
    await press('Enter');
    expect(fixture.componentInstance.chosen).toEqual([{ chart: 'quay', code: '12' }]);
    expect(fixture.componentInstance.hexes).toEqual(['#205040']);
    expect(list()).toBeNull();
    expect(document.activeElement).toBe(host().querySelector('button'));
    fixture.componentInstance.paint.set({ chart: 'quay', code: '12' });
    await fixture.whenStable();
    expect(host().querySelector('.name')?.textContent).toBe('12 Kelp');
  });

  it('takes a typed colour as it is, and lists what is nearest to it', async () => {
    await open();
    await type('#206050');
    expect(rows().map((row) => row.slice(0, 7))).toEqual(['13 Fog ', '12 Kelp', '11 Buoy', '#206050']);
    await press('Enter');
    expect(fixture.componentInstance.chosen).toEqual([{ hex: '#206050' }]);
  });

  it('goes through the list by keys, and says where nothing is called so', async () => {
    await open();
    await type('quay');
    expect(list()?.textContent).toContain('No thread is called that.');
    await press('Enter');
    expect(fixture.componentInstance.chosen).toEqual([]);
    // Nobody has to know the names.
    await type('green');
    expect(rows()).toEqual(['12 Kelp Quay']);
    await type('f');
    await press('ArrowDown');
    const first = document.activeElement as HTMLElement;
    expect(first.closest('ul')).not.toBeNull();
    await press('Enter', first);
    expect(fixture.componentInstance.chosen.length).toBe(1);
  });

  it('is closed by Escape with nothing taken, and offers the colour of the picture where there is one', async () => {
    await open();
    expect(rows()[0]).not.toBe('As the picture');
    await press('Escape', document.body);
    expect(list()).toBeNull();
    fixture.componentInstance.here.set('As the picture');
    await open();
    expect(rows()[0]).toBe('As the picture');
    list()?.querySelector<HTMLElement>('[data-thread="here"]')?.click();
    await fixture.whenStable();
    expect([fixture.componentInstance.asked, fixture.componentInstance.chosen.length]).toEqual([1, 0]);
  });

  it('says that there are several where things differ', async () => {
    fixture.componentInstance.paint.set(undefined);
    await fixture.whenStable();
    expect(host().querySelector('.name')?.textContent).toBe('Several threads');
    expect(host().querySelector('.swatch')).toBeNull();
  });
});
