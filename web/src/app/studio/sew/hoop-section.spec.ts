import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { oneOf, stepOf, stitchBounds, type Design } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { HoopSection } from './hoop-section';

/** What the section does when its controls are used. */
interface Acts {
  chooseHoop(id: string): void;
  turnHoop(): void;
  changeHoop(change: object): void;
  setSeveral(change: object, centred?: boolean): void;
  centre(): void;
  setBegin(id: string): void;
  setEnd(id: string): void;
}

describe('how a design lies in the hoop', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<HoopSection>;
  let acts: Acts;

  beforeAll(async () => (design = await smallDesign()));
  beforeEach(async () => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    fixture = TestBed.createComponent(HoopSection);
    acts = fixture.componentInstance as unknown as Acts;
    await fixture.whenStable();
  });

  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const button = (start: string): HTMLButtonElement | undefined =>
    [...page().querySelectorAll('button')].find(({ textContent }) => textContent.trim().startsWith(start));
  /** Where the lowest picture lies. */
  const place = (): [number, number] => {
    const [object] = store.recipe().objects;
    if (object.kind !== 'picture') throw new Error('there is no picture');
    return [object.picture.xMm, object.picture.yMm];
  };
  const middle = (across: number, down: number, gapMm: number): [number, number] => {
    const box = stitchBounds(oneOf(design).stitches);
    if (!box) throw new Error('nothing is sewn');
    const [x, y] = stepOf(box, gapMm);
    return [(box.left + box.right + (across - 1) * x) / 2, (box.top + box.bottom + (down - 1) * y) / 2];
  };

  it('keeps the hoop that is chosen, turned or made by hand', () => {
    acts.chooseHoop('130x180');
    expect(store.recipe().hoop).toEqual({ widthMm: 130, heightMm: 180, round: false });
    acts.turnHoop();
    expect(store.recipe().hoop).toEqual({ widthMm: 180, heightMm: 130, round: false });
    acts.changeHoop({ round: true });
    expect(store.recipe().hoop?.round).toBe(true);
    acts.chooseHoop('none');
    expect(store.recipe().hoop).toBeUndefined();
  });

  it('fills a hoop in one step, around its middle, and goes back to one', async () => {
    expect(button('Fill the hoop')).toBeUndefined();
    acts.chooseHoop('400x400');
    await fixture.whenStable();
    const before = place();
    button('Fill the hoop')?.click();
    await fixture.whenStable();
    const { several } = store.recipe();
    if (!several) throw new Error('there is one only');
    expect(several.across * several.down).toBeGreaterThan(1);
    const [x, y] = middle(several.across, several.down, several.gapMm);
    expect(place()[0]).toBeCloseTo(before[0] - x, 1);
    expect(place()[1]).toBeCloseTo(before[1] - y, 1);
    expect(page().textContent).toContain(`${several.across * several.down} of them, sewn thread by thread`);
    expect(button('Fill the hoop')).toBeUndefined();
    button('Only one')?.click();
    expect(store.recipe().several).toBeUndefined();
  });

  it('lets what was put elsewhere stay there', () => {
    acts.setSeveral({ across: 2 });
    const there = place();
    acts.setSeveral({ down: 3 });
    // The stitches of this test stay where they were: for them the design lies away from the middle now.
    expect(place()).toEqual(there);
    expect(store.recipe().several).toEqual({ across: 2, down: 3, gapMm: 10 });
  });

  it('says where the needle begins and ends', () => {
    acts.setBegin('corner');
    acts.setEnd('last');
    expect([store.recipe().order.begin, store.recipe().order.end]).toEqual(['corner', 'last']);
  });
});
