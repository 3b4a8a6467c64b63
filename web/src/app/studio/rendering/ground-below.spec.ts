import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { groundBelow, type Design, type PictureObject } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { GroundBelow } from './ground-below';

describe('GroundBelow', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<GroundBelow>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    store = fakeStore();
    store.change('method', (recipe) => (recipe.method = 'rows'));
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    fixture = TestBed.createComponent(GroundBelow);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = async (text: string): Promise<void> => {
    [...host().querySelectorAll('button')].find((b) => b.innerText.trim() === text)?.click();
    await fixture.whenStable();
  };
  const objects = () => store.recipe().objects;

  it('lays a fill below the picture in a colour of it that threads are seen on, and takes it away again', async () => {
    const [picture] = objects();
    await press('Lay one');
    expect(objects().map(({ kind }) => kind)).toEqual(['shape', 'picture']);
    const fill = groundBelow(objects(), picture as PictureObject);
    const { hex } = fill?.paint as { hex: string };
    expect(design.colours.map((colour) => colour.hex)).toContain(hex);
    expect(fill?.on).toBe(picture.id);
    expect(host().textContent).toContain('Sewn first.');
    await press('Remove');
    expect(objects()).toEqual([picture]);
  });

  it('is not offered everywhere, but shown wherever there is one', async () => {
    fixture.componentRef.setInput('offered', false);
    await fixture.whenStable();
    expect(host().innerText.trim()).toBe('');
    fixture.componentRef.setInput('offered', true);
    await fixture.whenStable();
    await press('Lay one');
    fixture.componentRef.setInput('offered', false);
    await fixture.whenStable();
    await press('Remove');
    expect(objects().length).toBe(1);
  });

  it('gives it another thread', async () => {
    await press('Lay one');
    const field = host().querySelector<HTMLInputElement>('input[type=color]');
    if (!field) throw new Error('no colour');
    field.value = '#7a4a2a';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    const [fill] = objects();
    expect(fill.kind === 'shape' && fill.paint).toEqual({ hex: '#7a4a2a' });
    expect(host().querySelector<HTMLInputElement>('input[type=color]')?.value).toBe('#7a4a2a');
  });

  it('goes to its stitches', async () => {
    await press('Lay one');
    await press('Its stitches, or a gradient');
    expect(TestBed.inject(StudioState).knot()).toBe('stitches');
  });
});
