import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { FirstMethod } from './first-method';

describe('FirstMethod', () => {
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<FirstMethod>;
  const text = (): string => (fixture.nativeElement as HTMLElement).innerText.replace(/\s+/g, ' ').trim();
  const button = (name: string): HTMLButtonElement | undefined =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.innerText === name);

  /** The store as it is when a picture was just dropped, sewn by a method. */
  const dropped = async (method: string): Promise<void> => {
    store.changeWhole('dropped', ({ objects }) => Object.assign(objects[0], { method }));
    store.line.update((line) => ({ ...line, entries: [], position: 0 }));
    await fixture.whenStable();
  };

  beforeEach(async () => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(), store) });
    fixture = TestBed.createComponent(FirstMethod);
    await fixture.whenStable();
  });

  it('says nothing while there is no design, nor where another method was chosen elsewhere', async () => {
    await dropped('pieces');
    expect(text()).toBe('');
    await dropped('cross');
    expect(text()).toBe('');
  });

  it('says what became of flat art, and takes another decision on its ground at once', async () => {
    const design = await smallDesign();
    TestBed.resetTestingModule();
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    fixture = TestBed.createComponent(FirstMethod);
    await dropped('pieces');
    const kinds = design.pieces.filter(({ family }) => family === 'area').length;
    expect(text()).toContain('Flat art, sewn with');
    expect(text()).toContain(`${kinds} fill`);
    const ground = design.pictures[0].plainGround;
    expect(/plain ground/.test(text())).toBe(ground);
    button('Good so')?.click();
    await fixture.whenStable();
    expect(text()).toBe('');
  });

  it('says how a photograph is sewn, and sews it otherwise at once', async () => {
    await dropped('painting');
    expect(text()).toContain('a photograph, sewn as thread painting');
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[data-method=pieces]')?.click();
    await fixture.whenStable();
    expect(store.view().method).toBe('pieces');
    expect(text()).toBe('');
  });

  it('is gone once it was read', async () => {
    await dropped('painting');
    button('Good so')?.click();
    await fixture.whenStable();
    expect(text()).toBe('');
    expect(store.view().method).toBe('painting');
  });
});
