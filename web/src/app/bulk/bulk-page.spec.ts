import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { BulkItem, BulkRun } from '@open-kite/contract';
import { until } from '../test/rig';
import { BulkPage } from './bulk-page';

const item = (name: string): BulkItem => ({ name, state: 'waiting', error: null, project: null, figures: null });
const run = (items: readonly BulkItem[]): BulkRun => ({
  id: 'r1',
  name: '2 names',
  createdAt: '2026-05-01T10:00:00.000Z',
  cancelled: false,
  items,
});

describe('BulkPage', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<BulkPage>;

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [provideRouter([]), provideHttpClient(), provideHttpClientTesting()],
    });
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(BulkPage);
    fixture.detectChanges();
    (await asked('GET', '/api/bulk')).flush([]);
    (await asked('GET', '/api/projects')).flush([]);
    await fixture.whenStable();
  });

  /** The next request to an address. */
  async function asked(method: string, url: string): Promise<TestRequest> {
    let found: TestRequest | undefined;
    await until(
      () => (found = http.match((request) => request.method === method && request.url === url).at(0)) !== undefined,
    );
    if (!found) throw new Error('never asked');
    return found;
  }
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const button = (): HTMLButtonElement => {
    const own = [...page().querySelectorAll('button')].find(({ textContent }) => /^\s*Sew/.test(textContent));
    if (!own) throw new Error('there is no button');
    return own;
  };
  const type = async (text: string): Promise<void> => {
    const field = page().querySelector('textarea');
    if (!field) throw new Error('there is no field');
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const choose = async (project: string | null): Promise<void> => {
    (fixture.componentInstance as unknown as { model: { set(id: string | null): void } }).model.set(project);
    await fixture.whenStable();
  };

  it('sews names through the text of a project, and only of one', async () => {
    await type('Mira\n\nJun');
    expect(button().textContent.trim()).toBe('Sew 2 names');
    expect(button().disabled).toBeTrue();
    await choose('badge');
    expect(button().disabled).toBeFalse();
    button().click();
    const begun = await asked('POST', '/api/bulk');
    expect(begun.request.body).toEqual({ name: '2 names', project: 'badge' });
    begun.flush(run([]));
    const names = await asked('POST', '/api/bulk/r1/names');
    expect(names.request.body).toEqual({ names: ['Mira', 'Jun'] });
    names.flush(run([item('Mira'), item('Jun')]));
    (await asked('GET', '/api/bulk')).flush([run([item('Mira'), item('Jun')])]);
    await until(() => page().querySelectorAll('tbody tr').length === 2);
    expect(page().querySelector('textarea')?.value).toBe('');
  });

  it('keeps the names and says why where the project has no letters; no empty run stays', async () => {
    await type('Mira');
    await choose('plain');
    button().click();
    (await asked('POST', '/api/bulk')).flush(run([]));
    (await asked('POST', '/api/bulk/r1/names')).flush(
      { error: 'this project has no letters that a name could take the place of' },
      { status: 422, statusText: 'no' },
    );
    (await asked('GET', '/api/bulk/r1')).flush(run([]));
    (await asked('DELETE', '/api/bulk/r1')).flush(null);
    (await asked('GET', '/api/bulk')).flush([]);
    await until(() => page().querySelector('[role=alert]')?.textContent?.includes('no letters') === true);
    // The runs are read again and again: what went wrong is not wiped off by that.
    (await asked('GET', '/api/bulk')).flush([]);
    await fixture.whenStable();
    expect(page().querySelector('[role=alert]')?.textContent).toContain('no letters');
    expect(page().querySelector('textarea')?.value).toBe('Mira');
  });

  it('reads a list of names that is dropped, and begins nothing by that', async () => {
    const files = new DataTransfer();
    files.items.add(new File(['size,name\n40,"Mira, the younger"\n50,Jun'], 'names.csv', { type: 'text/csv' }));
    document.dispatchEvent(new DragEvent('drop', { dataTransfer: files, cancelable: true }));
    await until(() => page().querySelector('textarea')?.value === 'Mira, the younger\nJun');
    http.expectNone({ method: 'POST', url: '/api/bulk' });
  });
});
