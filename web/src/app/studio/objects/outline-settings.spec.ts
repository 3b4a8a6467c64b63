import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { newShape, type CopiesObject, type Design, type DesignObject, type ShapeObject } from '@open-kite/core';
import type { Draft } from '../../project/history';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { CopiesSettings } from './copies-settings';
import { MoreActs } from './more-acts';
import { ObjectActs } from './object-acts';
import { OutlineSettings } from './outline-settings';

describe('settings of outlines and copies', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;

  beforeAll(async () => (design = await smallDesign()));
  beforeEach(() => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
  });

  const own = <K extends DesignObject['kind']>(kind: K): Extract<DesignObject, { kind: K }> => {
    const found = store.recipe().objects.find((object) => object.kind === kind);
    if (!found) throw new Error(`no ${kind}`);
    return found as Extract<DesignObject, { kind: K }>;
  };

  /** The settings of the outline there is; `show` shows it as it is by now. */
  async function shown() {
    const fixture = TestBed.createComponent(OutlineSettings);
    const show = async (): Promise<void> => {
      fixture.componentRef.setInput('outline', own('outline'));
      await fixture.whenStable();
    };
    await show();
    return { fixture, show, loader: TestbedHarnessEnvironment.loader(fixture) };
  }

  it('give a border of the whole design the form of a patch, and take it back', async () => {
    TestBed.inject(MoreActs).addBorder();
    const { fixture, show, loader } = await shown();
    const form = async (): Promise<MatSelectHarness> => (await loader.getAllHarnesses(MatSelectHarness))[2];
    await (await form()).clickOptions({ text: 'Shield' });
    expect(own('outline').form).toBe('shield');
    await show();
    // It has one edge.
    expect((fixture.nativeElement as HTMLElement).innerText).not.toContain('Outer edge only');
    await (await form()).clickOptions({ text: 'Along the edges' });
    expect('form' in own('outline')).toBeFalse();
    // What goes around one object has its edges.
    TestBed.inject(ObjectActs).addOutline('picture-1');
    const other = store.recipe().objects.find((object) => object.kind === 'outline' && object.of === 'picture-1');
    fixture.componentRef.setInput('outline', other);
    await fixture.whenStable();
    expect((await loader.getAllHarnesses(MatSelectHarness)).length).toBe(3);
  });

  it('leave gaps where others cross, with ends of their own, and begin where it is said', async () => {
    TestBed.inject(ObjectActs).addOutline('picture-1');
    const { show, loader } = await shown();
    const gaps = MatCheckboxHarness.with({ label: 'Gaps where other pieces cross' });
    await (await loader.getHarness(gaps)).check();
    expect(own('outline').gaps).toBeTrue();
    await show();
    const field = async (label: string): Promise<MatSelectHarness> => {
      const fields = await loader.getAllHarnesses(MatFormFieldHarness);
      for (const each of fields) {
        const select = (await each.getLabel()) === label ? await each.getControl(MatSelectHarness) : null;
        if (select) return select;
      }
      throw new Error(label);
    };
    await (await field('Ends')).clickOptions({ text: 'Pointed' });
    expect(own('outline').ends).toBe('point');
    await (await field('Begins')).clickOptions({ text: 'At the bottom' });
    expect(own('outline').begins).toBe('bottom');
    await show();
    await (await field('Begins')).clickOptions({ text: /shortest/ });
    expect(own('outline').begins).toBeUndefined();
    await (await loader.getHarness(gaps)).uncheck();
    expect(own('outline').gaps).toBeUndefined();
  });

  it('give an applique the colour of a thread of the design as its cloth, and take its steps away', async () => {
    TestBed.inject(ObjectActs).addOutline('picture-1');
    const { fixture, show, loader } = await shown();
    await (await loader.getHarness(MatSelectHarness)).clickOptions({ text: 'Applique' });
    await show();
    const [, cloth] = (fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>('kite-thread-field button');
    cloth.click();
    await show();
    document.querySelector<HTMLElement>('kite-thread-list [data-thread="design 0"]')?.click();
    expect(own('outline').applique?.cloth.hex).toBe(design.threads[0].hex);
    await show();
    await (await loader.getHarness(MatCheckboxHarness.with({ label: /Placement line/ }))).uncheck();
    expect(own('outline').applique?.placement).toBeFalse();
    await show();
    await (await loader.getHarness(MatCheckboxHarness.with({ label: 'Outer edge only' }))).check();
    expect(own('outline').closeMm).toBe(0);
    await show();
    await (await loader.getHarness(MatCheckboxHarness.with({ label: 'Outer edge only' }))).uncheck();
    expect(own('outline').closeMm).toBeUndefined();
  });

  it('print the cloth of an applique with a picture of the project, or with another one', async () => {
    TestBed.inject(ObjectActs).addOutline('picture-1');
    store.changeWhole('applique', ({ objects }) => {
      for (const object of objects) if (object.kind === 'outline') object.as = 'applique';
    });
    const fixture = TestBed.createComponent(OutlineSettings);
    fixture.componentRef.setInput('outline', own('outline'));
    await fixture.whenStable();
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const looks = (await loader.getAllHarnesses(MatSelectHarness)).at(-1);
    await looks?.clickOptions({ text: 'Print' });
    expect(own('outline').applique?.cloth.print).toEqual({ source: 'picture-1', widthMm: 40 });
    fixture.componentRef.setInput('outline', own('outline'));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.innerText).toContain('Another picture for the print');
    spyOn(TestBed.inject(ObjectActs), 'addSource').and.resolveTo('picture-7');
    const field = page.querySelector<HTMLInputElement>('input[type=file]');
    const files = new DataTransfer();
    files.items.add(new File(['x'], 'x.png'));
    if (field) field.files = files.files;
    field?.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(own('outline').applique?.cloth.print?.source).toBe('picture-7');
  });

  it('change how copies stand', async () => {
    const copies: CopiesObject = {
      kind: 'copies',
      id: 'copies-1',
      name: '',
      on: null,
      hidden: false,
      locked: false,
      of: ['picture-1'],
      layout: { kind: 'ring', count: 6, radiusMm: 30, turned: true },
    };
    store.changeWhole('copies', ({ objects }) => void objects.push(copies as Draft<CopiesObject>));
    const fixture = TestBed.createComponent(CopiesSettings);
    fixture.componentRef.setInput('copies', copies);
    const loader = TestbedHarnessEnvironment.loader(fixture);
    await (await loader.getHarness(MatCheckboxHarness)).uncheck();
    expect(own('copies').layout).toEqual({ kind: 'ring', count: 6, radiusMm: 30, turned: false });
    await (await loader.getHarness(MatSelectHarness)).clickOptions({ text: 'In a grid' });
    expect(own('copies').layout.kind).toBe('grid');
    const each = await loader.getHarness(MatCheckboxHarness.with({ label: 'Finish each before the next' }));
    await each.check();
    expect(own('copies').oneByOne).toBeTrue();
    fixture.componentRef.setInput('copies', own('copies'));
    await each.uncheck();
    expect(own('copies').oneByOne).toBeUndefined();
    // Along a line, once there is one.
    fixture.componentRef.setInput('copies', own('copies'));
    await fixture.whenStable();
    await (await loader.getHarness(MatSelectHarness)).clickOptions({ text: 'Along a line (draw one first)' });
    expect(own('copies').layout.kind).toBe('grid');
    const line = newShape(
      'shape-1',
      null,
      [
        {
          closed: false,
          nodes: [
            [0, 0, 0, 0, 0, 0],
            [40, 0, 0, 0, 0, 0],
          ],
        },
      ],
      { hex: '#000000' },
    );
    store.changeWhole('line', ({ objects }) => void objects.push(line as Draft<ShapeObject>));
    await (await loader.getHarness(MatSelectHarness)).clickOptions({ text: 'Along a line' });
    expect(own('copies').layout).toEqual({ kind: 'path', along: 'shape-1', count: 6, turned: true });
  });
});
