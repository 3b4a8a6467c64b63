import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { of, throwError } from 'rxjs';
import type { Project, ProjectSummary } from '@open-kite/contract';
import { Api, ApiError } from '../api/api';
import { Shelf } from './shelf';

const summary = (
  id: string,
  figures: ProjectSummary['figures'] = { stitches: 12480, threads: 5, minutes: 21.4 },
): ProjectSummary => ({
  id,
  name: `Project ${id}`,
  revision: 1,
  updatedAt: '2026-05-02T10:00:00.000Z',
  hasPreview: figures !== null,
  figures,
  making: false,
});

describe('Shelf', () => {
  let api: jasmine.SpyObj<Pick<Api, 'projects' | 'bin' | 'health' | 'addPicture' | 'createProject'>>;
  let fixture: ComponentFixture<Shelf>;

  const start = async (): Promise<HTMLElement> => {
    fixture = TestBed.createComponent(Shelf);
    await settle();
    return fixture.nativeElement as HTMLElement;
  };
  const settle = async (): Promise<void> => {
    // Files are read before anything is asked of the server: that takes a turn of its own.
    for (let i = 0; i < 4; i++) {
      await new Promise((resolve) => setTimeout(resolve, 5));
      await fixture.whenStable();
    }
  };
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;

  beforeEach(() => {
    api = jasmine.createSpyObj('Api', ['projects', 'bin', 'health', 'addPicture', 'createProject']);
    api.projects.and.returnValue(of([]));
    api.bin.and.returnValue(of([]));
    api.health.and.returnValue(of({ ok: true }));
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Api, useValue: api }] });
  });

  it('says what to do when it is empty', async () => {
    expect((await start()).innerText).toContain('The shelf is empty.');
  });

  it('shows projects with their figures, and those not sewn yet', async () => {
    api.projects.and.returnValue(of([summary('a'), summary('b', null)]));
    const text = (await start()).innerText.replace(/\u202f/g, ' ');
    expect(text).toContain('12 480 stitches · 5 threads · 21 min');
    expect(text).toContain('Not sewn yet');
  });

  it('says so when the shelf cannot be read, and reads it again', async () => {
    api.projects.and.returnValue(throwError(() => new ApiError(0, 'the server cannot be reached')));
    await start();
    expect(page().innerText).toContain('The shelf could not be read: the server cannot be reached.');
    api.projects.and.returnValue(of([summary('a')]));
    page().querySelector<HTMLElement>('.problem button')?.click();
    await settle();
    expect(page().querySelectorAll('.projects a').length).toBe(1);
  });

  it('says where nothing can be kept, and shows what is left', async () => {
    api.projects.and.returnValue(of([summary('a')]));
    expect((await start()).querySelector('[role=alert]')).toBeNull();
    api.health.and.returnValue(
      of({ ok: false, damage: 'store: kites.sqlite is damaged; the last backup is b.sqlite' }),
    );
    const alert = (await start()).querySelector<HTMLElement>('[role=alert]');
    expect(alert?.innerText).toContain(
      'Nothing can be saved here now: store: kites.sqlite is damaged; the last backup',
    );
    expect(page().querySelectorAll('.projects a').length).toBe(1);
  });

  it('opens what was taken off the shelf, where there is any', async () => {
    api.projects.and.returnValue(of([summary('a')]));
    await start();
    expect(page().innerText).not.toContain('taken off the shelf');
    api.bin.and.returnValue(
      of([{ id: 'b', name: 'Old sail', removedAt: '2026-05-03T10:00:00.000Z', hasPreview: false }]),
    );
    await start();
    page().querySelector<HTMLElement>('.bin button')?.click();
    await settle();
    expect(page().querySelector('kite-bin')?.textContent).toContain('Old sail');
  });

  const dropped = (file?: File): DragEvent => {
    const data = new DataTransfer();
    if (file) data.items.add(file);
    return new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true });
  };

  it('makes a project of a dropped picture and opens it', async () => {
    await start();
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    api.addPicture.and.returnValue(of({ hash: 'h', width: 1, height: 1, kind: 'raster' }));
    api.createProject.and.returnValue(of({ id: 'new' } as unknown as Project));
    document.dispatchEvent(dropped(new File(['x'], 'lantern-bay.png')));
    await settle();
    expect(api.createProject).toHaveBeenCalledOnceWith('Lantern bay', 'h');
    expect(navigate).toHaveBeenCalledOnceWith(['/project', 'new']);
  });

  it('takes a pasted picture as well', async () => {
    await start();
    spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    api.addPicture.and.returnValue(of({ hash: 'h', width: 1, height: 1, kind: 'raster' }));
    api.createProject.and.returnValue(of({ id: 'new' } as unknown as Project));
    const data = new DataTransfer();
    data.items.add(new File(['x'], 'image.png', { type: 'image/png' }));
    document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
    await settle();
    expect(api.createProject).toHaveBeenCalledOnceWith('New picture', 'h');
  });

  it('says what was wrong with a file, and that nothing was added', async () => {
    await start();
    api.addPicture.and.returnValue(
      throwError(() => new ApiError(422, 'not a picture that can be read (the file is empty)')),
    );
    document.dispatchEvent(dropped(new File([], 'none.png')));
    await settle();
    expect(page().querySelector('.problem')?.textContent).toContain(
      'none.png: not a picture that can be read (the file is empty). Nothing was added',
    );
    document.dispatchEvent(dropped());
    await settle();
    expect(page().querySelector('.problem')?.textContent).toContain('not a file');
    expect(api.createProject).not.toHaveBeenCalled();
  });

  it('shows where a picture may be let go', async () => {
    await start();
    document.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true }));
    await settle();
    expect(page().querySelector('.start.over')).not.toBeNull();
    document.dispatchEvent(new DragEvent('dragleave', { bubbles: true }));
    await settle();
    expect(page().querySelector('.start.over')).toBeNull();
  });
});
