import { TestBed } from '@angular/core/testing';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { MethodCards } from './method-cards';
import { MethodPictures } from './method-pictures';

describe('MethodCards', () => {
  const make = async (method: string) => {
    const store = fakeStore();
    store.change('method', (recipe) => (recipe.method = method));
    const conversion = fakeConversion(await smallDesign());
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    const fixture = TestBed.createComponent(MethodCards);
    await fixture.whenStable();
    return { fixture, store, conversion, host: fixture.nativeElement as HTMLElement };
  };
  const pictures = () => TestBed.inject(MethodPictures) as unknown as { make: jasmine.Spy };

  it('shows every method by name, the one in use pressed, and sews by another at one touch', async () => {
    const { store, host, fixture } = await make('pieces');
    const names = [...host.querySelectorAll('.name')].map((name) => name.textContent);
    expect(names).toEqual(['Flat pieces', 'Tonal rows', 'Thread painting', 'Four-ink layers', 'Counted cross']);
    expect(host.querySelector('[aria-pressed=true]')?.getAttribute('data-method')).toBe('pieces');
    host.querySelector<HTMLElement>('[data-method=rows]')?.click();
    await fixture.whenStable();
    expect(store.view().method).toBe('rows');
    expect(host.querySelector('[aria-pressed=true]')?.getAttribute('data-method')).toBe('rows');
  });

  it('makes pictures by itself of what is rendered, and of flat pieces when asked', async () => {
    const { host } = await make('pieces');
    expect(pictures().make).not.toHaveBeenCalled();
    [...host.querySelectorAll('button')].find((b) => b.innerText.startsWith('Show how each'))?.click();
    expect(pictures().make).toHaveBeenCalledTimes(1);
  });

  it('waits for the design itself', async () => {
    const { conversion, fixture, store } = await make('painting');
    expect(pictures().make).toHaveBeenCalledTimes(1);
    conversion.rough.set(true);
    store.change('width', (recipe) => (recipe.picture.widthMm = 44));
    await fixture.whenStable();
    expect(pictures().make).toHaveBeenCalledTimes(1);
    conversion.rough.set(false);
    await fixture.whenStable();
    expect(pictures().make).toHaveBeenCalledTimes(2);
  });
});
