import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { fakeConversion, fakeStore, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { FavouredAreas } from './favoured-areas';
import { RenderingActs } from './rendering-acts';

describe('FavouredAreas', () => {
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<FavouredAreas>;
  let state: StudioState;
  let acts: RenderingActs;

  beforeEach(async () => {
    store = fakeStore();
    store.change('method', (recipe) => (recipe.method = 'painting'));
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(), store) });
    state = TestBed.inject(StudioState);
    acts = TestBed.inject(RenderingActs);
    fixture = TestBed.createComponent(FavouredAreas);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = async (text: string): Promise<void> => {
    [...host().querySelectorAll('button')].find((b) => b.innerText.trim() === text)?.click();
    await fixture.whenStable();
  };
  const lines = () => store.view().rendering.lines;

  it('makes what is drawn round on the cloth what matters most, says its size and takes it back', async () => {
    await press('Draw round a face');
    expect(state.lassoing()).toBeTrue();
    expect(host().textContent).toContain('Draw round it on the cloth.');
    // Around the middle, half as wide and a quarter as high as the picture.
    const { widthMm, heightMm } = store.view().picture;
    const [x, y] = [widthMm / 4, heightMm / 8];
    acts.setArea([-x, -y, x, -y, x, y, -x, y]);
    state.lassoing.set(false);
    await fixture.whenStable();
    expect(lines().map(({ kind, threads }) => [kind, threads.length])).toEqual([['favour', 0]]);
    expect(lines()[0].area).toEqual([0.25, 0.375, 0.75, 0.375, 0.75, 0.625, 0.25, 0.625]);
    expect(acts.area()).toEqual([]);
    expect(host().textContent).toContain(`${(widthMm / 2).toFixed(0)} by ${(heightMm / 4).toFixed(0)} mm`);
    await press('Take back');
    expect(lines()).toEqual([]);
  });

  it('leaves an area that was drawn for something else alone', async () => {
    acts.setArea([0, 0, 10, 0, 10, 10]);
    await fixture.whenStable();
    expect(acts.area().length).toBe(6);
    // Drawing can be given up.
    await press('Draw round a face');
    await press('Stop drawing');
    expect(state.lassoing()).toBeFalse();
    acts.setArea([0, 0, 10, 0, 10, 10]);
    expect(lines()).toEqual([]);
  });

  it('stops drawing when it goes', async () => {
    await press('Draw round a face');
    fixture.destroy();
    expect(state.lassoing()).toBeFalse();
    acts.setArea([0, 0, 10, 0, 10, 10]);
    expect(lines()).toEqual([]);
  });
});
