import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MatDialog } from '@angular/material/dialog';
import { of, throwError } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { until } from '../test/rig';
import { Bin } from './bin';

describe('Bin', () => {
  let api: jasmine.SpyObj<Pick<Api, 'restore' | 'erase'>>;
  let fixture: ComponentFixture<Bin>;
  let changes: number;
  let sure: boolean | undefined;

  beforeEach(async () => {
    api = jasmine.createSpyObj('Api', ['restore', 'erase']);
    api.restore.and.returnValue(of(undefined));
    api.erase.and.returnValue(of(undefined));
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: api }] });
    spyOn(TestBed.inject(MatDialog), 'open').and.callFake((() => ({ afterClosed: () => of(sure) })) as never);
    fixture = TestBed.createComponent(Bin);
    fixture.componentRef.setInput('projects', [
      { id: 'a', name: 'Old sail', removedAt: '2026-05-03T10:00:00.000Z', hasPreview: true },
      { id: 'b', name: 'Torn kite', removedAt: '2026-05-02T10:00:00.000Z', hasPreview: false },
    ]);
    changes = 0;
    fixture.componentInstance.changed.subscribe(() => changes++);
    await fixture.whenStable();
  });

  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = (name: string): void =>
    [...page().querySelectorAll<HTMLElement>('button')]
      .find((b) => (b.getAttribute('aria-label') ?? b.innerText.trim()) === name)
      ?.click();

  it('puts back, and says what did not come back', async () => {
    expect(page().innerText).toContain('3 May');
    press('Put it back: Torn kite');
    await until(() => changes === 1);
    expect(api.restore).toHaveBeenCalledOnceWith('b');
    api.restore.and.returnValue(throwError(() => new ApiError(404, 'there is no project a')));
    await fixture.whenStable();
    press('Put it back: Old sail');
    await until(() => changes === 2);
    await fixture.whenStable();
    expect(page().innerText).toContain('Old sail did not come back: there is no project a.');
  });

  it('deletes one or all for good, once that was confirmed', async () => {
    const asked = TestBed.inject(MatDialog).open as jasmine.Spy;
    for (sure of [undefined, false]) {
      asked.calls.reset();
      press('Delete for good: Old sail');
      await until(() => asked.calls.count() === 1);
    }
    expect(api.erase).not.toHaveBeenCalled();
    sure = true;
    press('Delete for good: Old sail');
    await until(() => changes === 1);
    expect(api.erase.calls.mostRecent().args).toEqual(['a']);
    await fixture.whenStable();
    press('Delete all of it');
    await until(() => changes === 2);
    expect(api.erase.calls.mostRecent().args).toEqual([undefined]);
    expect(asked.calls.mostRecent().args[1]).toEqual({ data: 'The 2 projects that lie here' });
  });

  it('says that nothing lies there', async () => {
    fixture.componentRef.setInput('projects', []);
    await fixture.whenStable();
    expect(page().innerText).toContain('Nothing lies here.');
    expect(page().innerText).not.toContain('Delete all of it');
  });
});
