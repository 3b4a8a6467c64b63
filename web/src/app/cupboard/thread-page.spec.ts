import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { provideRouter } from '@angular/router';
import { throwError } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { fakeApi, frames } from '../test/rig';
import { Cupboard } from './cupboard';
import { ThreadPage } from './thread-page';
import { findThreads, readColour, type ListedThread } from './thread-search';

const listed = (code: string, name: string, hex: string): ListedThread => ({
  code,
  name,
  hex,
  weight: 40,
  finish: 'plain',
  chart: 'c',
  chartName: 'C',
});

describe('finding threads', () => {
  const threads = [
    listed('A-10', 'Kelp', '#2f5d50'),
    listed('A-2', 'Red kelp', '#b3262b'),
    listed('A-1', 'Night', '#101014'),
  ];
  const codes = (found: readonly ListedThread[]): string[] => found.map((t) => t.code);

  it('reads typed colours', () => {
    expect(readColour(' 2F5D50')).toBe('#2f5d50');
    expect(readColour('#abc')).toBe('#aabbcc');
    expect(readColour('kelp')).toBeUndefined();
  });

  it('finds by every word, by colour, and sorts by hue or code', () => {
    expect(codes(findThreads(threads, 'kelp', undefined, 'chart'))).toEqual(['A-10', 'A-2']);
    expect(codes(findThreads(threads, 'red KELP', undefined, 'chart'))).toEqual(['A-2']);
    expect(codes(findThreads(threads, '', undefined, 'code'))).toEqual(['A-1', 'A-2', 'A-10']);
    expect(codes(findThreads(threads, '', undefined, 'hue'))[0]).toBe('A-1');
    const near = findThreads(threads, '', '#305e51', 'hue');
    expect(near[0].code).toBe('A-10');
    expect(near[0].deltaE).toBeLessThan(1);
  });
});

describe('ThreadPage', () => {
  let fixture: ComponentFixture<ThreadPage>;
  let api: ReturnType<typeof fakeApi>;

  beforeEach(async () => {
    api = fakeApi();
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Api, useValue: api }] });
    fixture = TestBed.createComponent(ThreadPage);
    fixture.nativeElement.style.height = '700px';
    fixture.nativeElement.style.width = '1200px';
    await settle();
  });

  const settle = async (): Promise<void> => {
    await fixture.whenStable();
    await frames();
    await fixture.whenStable();
  };
  const all = (selector: string): HTMLElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
  ];
  const press = async (text: string): Promise<void> => {
    const found = all('button').find((b) =>
      ((b.getAttribute('aria-label') ?? '') + ' ' + b.innerText).replace(/\s+/g, ' ').trim().startsWith(text),
    );
    if (!found) throw new Error(`no button ${text}`);
    found.click();
    await settle();
  };
  const cupboard = (): Cupboard => TestBed.inject(Cupboard);

  it('shows all threads of all charts, and those in the drawer', async () => {
    expect(all('.tile').length).toBe(7);
    await press('The drawer');
    expect(all('.tile').map((t) => t.innerText.replace(/\s+/g, ' ').trim())).toEqual(['2 in the drawer SL-1 Kelp']);
    expect(all('.stock.low').length).toBe(1);
    expect(all('nav .low')[0].innerText).toContain('1 running low');
  });

  it('says so where nothing fits the words', async () => {
    const search = all('input[type=search]')[0] as HTMLInputElement;
    search.value = 'velvet';
    search.dispatchEvent(new Event('input'));
    await settle();
    expect(all('.empty')[0].innerText).toContain('No thread is called "velvet"');
    search.value = '#2c6e80';
    search.dispatchEvent(new Event('input'));
    await settle();
    expect(all('.tile')[0].innerText).toContain('SL-3');
  });

  it('counts spools up and down, within what a drawer holds', async () => {
    all('.tile')
      .find((t) => t.innerText.includes('SL-2'))
      ?.click();
    await settle();
    await press('One spool more');
    expect(cupboard().entries().get('saltline SL-2')?.spools).toBe(1);
    const field = all('aside input[type=number]')[0] as HTMLInputElement;
    field.value = '5000';
    field.dispatchEvent(new Event('change'));
    await settle();
    expect(cupboard().entries().get('saltline SL-2')?.spools).toBe(999);
  });

  it('makes a chart, writes a thread and refuses a bad one', async () => {
    await press('New chart');
    await press('Thread');
    const fields = (): HTMLInputElement[] => all('aside form input') as HTMLInputElement[];
    const write = async (name: string, value: string): Promise<void> => {
      const input = fields().find((f) => f.name === name) as HTMLInputElement;
      input.value = value;
      input.dispatchEvent(new Event('input'));
      await settle();
    };
    await settle();
    expect(all('.fault')[0].innerText).toContain('the code is missing');
    await write('code', 'N-1');
    await write('name', 'Buoy');
    await write('hex', 'orange');
    expect(all('.fault')[0].innerText).toContain('"orange" is not a colour');
    await write('hex', '#ff7a1a');
    await press('Keep');
    expect(
      cupboard()
        .charts()
        .at(-1)
        ?.threads.map((t) => t.code),
    ).toContain('N-1');
  });

  it('takes a thread and a chart out, and brings them back', async () => {
    const open = spyOn(TestBed.inject(MatSnackBar), 'open').and.callThrough();
    await press('Mine');
    all('.tile')[0].click();
    await settle();
    await press('Take out');
    expect(cupboard().charts()[1].threads.length).toBe(0);
    open.calls.mostRecent().returnValue.dismissWithAction();
    await settle();
    expect(cupboard().charts()[1].threads.length).toBe(1);
    await press('Take the chart out');
    expect(cupboard().charts().length).toBe(1);
    open.calls.mostRecent().returnValue.dismissWithAction();
    await settle();
    expect(cupboard().charts().length).toBe(2);
  });

  it('imports a chart and reports every bad line by its number', async () => {
    const input = all('input[type=file]')[0] as HTMLInputElement;
    const files = new DataTransfer();
    files.items.add(new File(['code,name,hex\nA,One,#112233\nB,Two,blue\n,Three,#000000'], 'old.csv'));
    input.files = files.files;
    input.dispatchEvent(new Event('change'));
    await settle();
    expect(all('.report')[0].innerText).toContain('1 threads came in, 2 lines did not');
    expect(all('.report li').map((li) => li.innerText)).toEqual([
      'line 3: "blue" is not a colour like #1f2d2c',
      'line 4: the code is missing',
    ]);
  });

  it('says what the server refused, and shows what it holds', async () => {
    const open = spyOn(TestBed.inject(MatSnackBar), 'open').and.callThrough();
    api.setStash = () => throwError(() => new ApiError(0, 'the server cannot be reached'));
    all('.tile')[0].click();
    await settle();
    await press('One spool more');
    expect(open.calls.mostRecent().args[0]).toContain('Nothing was changed: the server cannot be reached');
  });
});
