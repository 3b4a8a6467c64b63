import { TestBed } from '@angular/core/testing';
import { type Design } from '@open-kite/core';
import { throwError } from 'rxjs';
import { Api } from '../../api/api';
import { Cupboard } from '../../cupboard/cupboard';
import { Preferences } from '../../shared/preferences';
import { fakeApi, fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { DrawerSection } from './drawer-section';

describe('DrawerSection', () => {
  let design: Design;
  let api: ReturnType<typeof fakeApi>;

  beforeAll(async () => {
    const made = await smallDesign();
    const [first, ...others] = made.threads;
    design = { ...made, threads: [{ ...first, chart: 'saltline', code: 'SL-1' }, ...others] };
  });
  beforeEach(() => {
    localStorage.removeItem('kite-spool');
    api = fakeApi();
    TestBed.configureTestingModule({
      providers: [...studioProviders(fakeConversion(design), fakeStore()), { provide: Api, useValue: api }],
    });
  });

  const shown = async (): Promise<HTMLElement> => {
    await TestBed.inject(Cupboard).load();
    const fixture = TestBed.createComponent(DrawerSection);
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  };

  it('takes off what was sewn of threads there are, and says how many spools fewer', async () => {
    const page = await shown();
    expect(page.innerText).toMatch(/\d\.\d m of what lies in the drawer/);
    const takeOff = spyOn(api, 'takeOff').and.callThrough();
    page.querySelector('button')?.click();
    await TestBed.inject(Cupboard).load();
    expect(takeOff.calls.mostRecent().args[0].threads.map(({ code }) => code)).toEqual(['SL-1']);
    expect(takeOff.calls.mostRecent().args[0].spoolM).toBe(1000);
    await new Promise((resolve) => setTimeout(resolve));
    expect(document.body.innerText).toContain('no spool is used up');
  });

  it('is not there where nothing of the design lies in the drawer', async () => {
    spyOn(api, 'stash').and.returnValue(api.setStash([]));
    expect((await shown()).innerText.trim()).toBe('');
  });

  it('says that the drawer was not changed', async () => {
    const page = await shown();
    spyOn(api, 'takeOff').and.returnValue(throwError(() => new Error('the server cannot be reached')));
    page.querySelector('button')?.click();
    await new Promise((resolve) => setTimeout(resolve));
    expect(document.body.innerText).toContain('The drawer was not changed: the server cannot be reached.');
  });

  it('remembers how much a spool holds, and reads nothing else', () => {
    localStorage.setItem('kite-spool', 'many');
    expect(TestBed.inject(Preferences).spoolM()).toBe(1000);
  });
});
