import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { defaultRecipe, type DesignObject, type OutlineObject, type ShapeObject } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { ObjectActs } from './object-acts';
import { nameItself, nameOfObject } from './object-name';
import { ObjectRow } from './object-row';

const [picture] = defaultRecipe(320, 240).objects;
const base = { on: picture.id, name: '', hidden: false, locked: false };
const outline = (id: string, of: string): OutlineObject => ({
  ...base,
  id,
  kind: 'outline',
  of,
  offsetMm: 0,
  widthMm: 3,
  as: 'satin',
  paint: { hex: '#22304a' },
});
const shape = (id: string, hex: string): ShapeObject => ({
  ...base,
  id,
  kind: 'shape',
  place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
  role: 'piece',
  paths: [
    {
      closed: true,
      nodes: [
        [0.1, 0.1, 0, 0, 0, 0],
        [0.4, 0.1, 0, 0, 0, 0],
        [0.2, 0.4, 0, 0, 0, 0],
      ],
    },
  ],
  widthMm: 1,
  as: 'auto',
  passes: 0,
  paint: { hex },
  copies: { count: 1, radius: 0.2 },
  replaces: null,
});

describe('names of objects', () => {
  const named = (...objects: DesignObject[]): string[] => objects.map((object) => nameOfObject(objects, object));

  it('say what an object is, and number what is alike', () => {
    expect(named(picture, outline('o', picture.id))).toEqual(['Picture', 'Outline of picture']);
    expect(named(picture, shape('a', '#c21f26'), shape('b', '#c42128'), shape('c', '#2b63b6'))).toEqual([
      'Picture',
      'Red shape 1',
      'Red shape 2',
      'Blue shape',
    ]);
  });

  it('are their own again where nobody names them', () => {
    const called = { ...shape('a', '#c21f26'), name: 'Tail' };
    const objects = [picture, called, shape('b', '#c21f26')];
    expect(nameItself(objects, called)).toBe('Red shape 1');
    expect(nameOfObject(objects, called)).toBe('Tail');
  });

  it('keep their numbers wherever an object goes in the stack', () => {
    expect(named(shape('d2', '#c21f26'), picture, shape('d10', '#c21f26'), shape('d1', '#c21f26'))).toEqual([
      'Red shape 2',
      'Picture',
      'Red shape 3',
      'Red shape 1',
    ]);
  });

  it('are those the user gave, and end for outlines of outlines', () => {
    const called = { ...shape('a', '#c21f26'), name: 'Tail' };
    expect(named(picture, called, outline('o', 'a'))).toEqual(['Picture', 'Tail', 'Outline of Tail']);
    expect(named(outline('o', 'q'), outline('q', 'o'))).toEqual(['Outline of outline 1', 'Outline of outline 2']);
  });
});

describe('ObjectRow', () => {
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let fixture: ComponentFixture<ObjectRow>;
  const chips = (): HTMLButtonElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLButtonElement>('.chip:not(.add)'),
  ];
  const labels = (): string[] => chips().map((chip) => chip.getAttribute('aria-label') ?? '');

  beforeEach(async () => {
    const design = await smallDesign();
    const pieces = design.pieces.map((piece, i) => (i === 1 ? { ...piece, object: 'a' } : piece));
    store = fakeStore();
    store.changeWhole('two more', ({ objects }) => objects.push(shape('a', '#c21f26') as never, outline('o', 'a')));
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion({ ...design, pieces }), store) });
    state = TestBed.inject(StudioState);
    fixture = TestBed.createComponent(ObjectRow);
    await fixture.whenStable();
  });

  it('shows the objects, highest first, each as a small picture', () => {
    expect(labels()).toEqual(['Outline of red shape', 'Red shape', 'Picture']);
    expect(chips().map((chip) => chip.querySelector('img, path')?.tagName.toLowerCase())).toEqual([
      'path',
      'path',
      'img',
    ]);
  });

  it('chooses the pieces of a shape, and opens a picture', async () => {
    chips()[1].click();
    await fixture.whenStable();
    expect([...state.selected()]).toEqual([1]);
    expect(chips()[1].getAttribute('aria-pressed')).toBe('true');
    chips()[2].click();
    expect(store.openPicture()).toBe(picture.id);
  });

  it('lays a further outline around the one there is', () => {
    TestBed.inject(ObjectActs).addOutline('a');
    const offsets = store.recipe().objects.flatMap((o) => (o.kind === 'outline' ? [[o.of, o.offsetMm]] : []));
    expect(offsets).toEqual([
      ['a', 3],
      ['a', 0],
    ]);
  });

  it('says what is hidden and locked, and follows the stack', async () => {
    const acts = TestBed.inject(ObjectActs);
    acts.setHidden('a', true);
    acts.setLocked('a', true);
    await fixture.whenStable();
    expect(labels()[1]).toBe('Red shape (hidden, locked)');
    acts.step('a', -1);
    await fixture.whenStable();
    expect(labels()).toEqual(['Outline of red shape', 'Picture', 'Red shape (hidden, locked)']);
    acts.remove(['a']);
    await fixture.whenStable();
    expect(labels()).toEqual(['Picture']);
  });
});
