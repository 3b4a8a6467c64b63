import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { provideRouter } from '@angular/router';
import { of, throwError } from 'rxjs';
import { MOST_SHARED, type Project, type ProjectSummary } from '@open-kite/contract';
import { Api, ApiError } from '../api/api';
import { pickIn, until } from '../test/rig';
import { Projects } from './projects';

const summary = (id: string, name: string, stitches: number | null, day: number): ProjectSummary => ({
  id,
  name,
  revision: 1,
  updatedAt: `2026-05-0${day}T10:00:00.000Z`,
  hasPreview: stitches !== null,
  figures: stitches === null ? null : { stitches, threads: 3, minutes: 100_000 / stitches },
  making: false,
});
const LIST = [
  summary('a', 'Harbour kite 10', 5000, 3),
  summary('b', 'harbour kite 9', 900, 2),
  summary('c', 'Lantern', null, 1),
];

describe('Projects', () => {
  let api: jasmine.SpyObj<Pick<Api, 'rename' | 'duplicate' | 'share' | 'remove' | 'restore'>>;
  let fixture: ComponentFixture<Projects>;
  let changes: number;

  beforeEach(async () => {
    localStorage.clear();
    api = jasmine.createSpyObj('Api', ['rename', 'duplicate', 'share', 'remove', 'restore']);
    for (const act of [api.rename, api.remove, api.restore]) act.and.returnValue(of(undefined));
    api.duplicate.and.returnValue(of({ id: 'new' } as unknown as Project));
    api.share.and.returnValue(of(new Blob(['x'])));
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Api, useValue: api }] });
    fixture = TestBed.createComponent(Projects);
    fixture.componentRef.setInput('projects', LIST);
    changes = 0;
    fixture.componentInstance.changed.subscribe(() => changes++);
    await fixture.whenStable();
    // Marks, menus and fields come a moment later, each for itself.
    const count = (selector: string): number => page().querySelectorAll(selector).length;
    await until(() => count('mat-checkbox input') === LIST.length && count('kite-choice-field mat-select') === 1);
    await fixture.whenStable();
  });

  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const names = (): string[] => [...page().querySelectorAll('.name')].map((n) => n.textContent ?? '');
  const find = async (text: string): Promise<void> => {
    const field = page().querySelector<HTMLInputElement>('input[type=search]');
    if (!field) throw new Error('nothing to look with');
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const choose = async (...wanted: string[]): Promise<void> => {
    for (const name of wanted) {
      const mark = (): HTMLElement | null => page().querySelector(`[aria-label="Choose ${name}"]`);
      await until(() => mark() !== null);
      mark()?.click();
    }
    await fixture.whenStable();
  };
  const press = async (text: string): Promise<void> => {
    const found = [...document.querySelectorAll<HTMLElement>('button')]
      .filter((b) => b.innerText.trim() === text)
      .at(-1);
    if (!found) throw new Error(`no button ${text}`);
    found.click();
    await fixture.whenStable();
  };
  const fromMenu = async (project: string, entry: string): Promise<void> => {
    const more = (): HTMLElement | null => page().querySelector(`[aria-label="More for ${project}"]`);
    await until(() => more() !== null);
    more()?.click();
    await fixture.whenStable();
    await press(entry);
  };

  it('are found by every word of a name, and sorted as wished, which is remembered', async () => {
    expect(names()).toEqual(['Harbour kite 10', 'harbour kite 9', 'Lantern']);
    await pickIn(fixture, 'Sorted by', 'name');
    expect(names()).toEqual(['harbour kite 9', 'Harbour kite 10', 'Lantern']);
    await pickIn(fixture, 'Sorted by', 'minutes');
    expect(names()).toEqual(['harbour kite 9', 'Harbour kite 10', 'Lantern']);
    await pickIn(fixture, 'Sorted by', 'stitches');
    expect(names()).toEqual(['Harbour kite 10', 'harbour kite 9', 'Lantern']);
    expect(localStorage.getItem('kite-shelf')).toBe('stitches');
    await find(' KITE har 9');
    expect(names()).toEqual(['harbour kite 9']);
    await find('whale');
    expect(page().textContent).toContain('No project has “whale” in its name.');
  });

  it('are shared out several at once, those that are shown', async () => {
    spyOn(URL, 'createObjectURL').and.returnValue('blob:kite');
    const saved = spyOn(HTMLAnchorElement.prototype, 'click');
    await choose('Harbour kite 10', 'Lantern');
    expect(page().querySelector('.acts')?.textContent).toContain('2 chosen');
    await press('Share as .kite');
    expect(api.share).toHaveBeenCalledOnceWith(['a', 'c']);
    expect((saved.calls.mostRecent().object as HTMLAnchorElement).download).toBe('open-kite-2-projects.zip');
    await fromMenu('harbour kite 9', 'Share as .kite');
    expect(api.share.calls.mostRecent().args).toEqual([['b']]);
    expect((saved.calls.mostRecent().object as HTMLAnchorElement).download).toBe('harbour-kite-9.kite');
  });

  it('are chosen all or none, and one that has gone is not chosen any more', async () => {
    await choose('Lantern');
    await press('All 3');
    expect(page().querySelector('.acts')?.textContent).toContain('3 chosen');
    fixture.componentRef.setInput('projects', LIST.slice(1));
    await fixture.whenStable();
    expect(page().querySelector('.acts')?.textContent).toContain('2 chosen');
    await press('None');
    expect(page().querySelector('.acts')).toBeNull();
  });

  it('are not shared when they are too many', async () => {
    const many = Array.from({ length: MOST_SHARED + 1 }, (_, i) => summary(`p${i}`, `Kite ${i}`, 10, 1));
    fixture.componentRef.setInput('projects', many);
    await fixture.whenStable();
    await choose('Kite 0');
    await press(`All ${many.length}`);
    expect(page().innerText).toContain(`At most ${MOST_SHARED} projects are shared at once.`);
    await press('Share as .kite');
    expect(api.share).not.toHaveBeenCalled();
  });

  it('are duplicated one by one, up to the one that fails', async () => {
    await choose('Harbour kite 10', 'harbour kite 9', 'Lantern');
    api.duplicate.and.returnValues(
      of({ id: 'new' } as unknown as Project),
      throwError(() => new ApiError(507, 'the disk is full')),
    );
    await press('Duplicate');
    expect(api.duplicate.calls.allArgs()).toEqual([['a'], ['b']]);
    expect(page().innerText).toContain('harbour kite 9 was not duplicated: the disk is full.');
    expect(changes).toBe(2);
  });

  it('get another name, never none', async () => {
    await fromMenu('Lantern', 'Rename');
    const nameField = () => document.querySelector<HTMLInputElement>('kite-rename-dialog input');
    // The field is there a moment before the form has written into it.
    await until(() => nameField()?.value === 'Lantern');
    const type = async (text: string): Promise<void> => {
      const field = nameField();
      if (!field) throw new Error('no field');
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await press('Rename');
    };
    await type('   ');
    expect(api.rename).not.toHaveBeenCalled();
    await type(' Paper lantern ');
    await until(() => api.rename.calls.count() > 0);
    expect(api.rename).toHaveBeenCalledOnceWith('c', 'Paper lantern');
    TestBed.inject(MatDialog).closeAll();
  });

  it('are taken off several at once, and put back', async () => {
    const bar = spyOn(TestBed.inject(MatSnackBar), 'open').and.returnValue({ onAction: () => of(undefined) } as never);
    await choose('Harbour kite 10', 'Lantern');
    await press('Take off the shelf');
    await until(() => api.restore.calls.count() === 2);
    expect(api.remove.calls.allArgs()).toEqual([['a'], ['c']]);
    expect(bar.calls.mostRecent().args.slice(0, 2)).toEqual(['2 projects are off the shelf.', 'Put them back']);
    expect(api.restore.calls.allArgs()).toEqual([['a'], ['c']]);
  });

  it('lays out a long shelf as far as somebody looks, and finds what is not laid out yet', async () => {
    let comeNear: () => void = () => undefined;
    spyOn(window, 'IntersectionObserver').and.callFake(function (heard: IntersectionObserverCallback) {
      comeNear = () => heard([{ isIntersecting: true } as IntersectionObserverEntry], {} as IntersectionObserver);
      return { observe: () => undefined, disconnect: () => undefined } as unknown as IntersectionObserver;
    });
    const many = Array.from({ length: 200 }, (_, k) => summary(`p${k}`, `Kite ${k}`, 100, 1));
    fixture.componentRef.setInput('projects', many);
    await fixture.whenStable();
    expect(names().length).toBe(60);
    expect(page().querySelector('.more')?.textContent).toContain('60 of 200 are here');
    await find('kite 19');
    expect(names().length).toBe(12);
    expect(page().querySelector('.more')).toBeNull();
    await find('');
    expect(names().length).toBe(60);
    comeNear();
    await fixture.whenStable();
    expect(names().length).toBe(120);
    for (let presses = 0; presses < 2; presses++) {
      page().querySelector<HTMLElement>('.more button')?.click();
      await fixture.whenStable();
    }
    expect(names().length).toBe(200);
    expect(page().querySelector('.more')).toBeNull();
  });
});
