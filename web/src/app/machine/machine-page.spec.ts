import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Machine, MachineJob } from '@open-kite/contract';
import { readStitchList } from '@open-kite/core';
import { MachineApi } from './machine-api';
import { MachinePage } from './machine-page';

const LIST = [
  '# open-kite stitches 1',
  '# size_mm,10.0,0.0',
  '# fabric,quilting-cotton,#f4f1ea',
  '# thread,0,OWN-01,Kelp,#2f5d50,own',
  '# thread,1,OWN-02,Ember,#d8602a,own',
  'x_mm,y_mm,command,thread,piece',
  '0.000,0.000,jump,0,p1',
  '0.000,0.000,stitch,0,p1',
  '5.000,0.000,stitch,0,p1',
  '5.000,0.000,trim,0,',
  '5.000,0.000,change,1,',
  '5.000,0.000,jump,1,p2',
  '5.000,0.000,stitch,1,p2',
  '10.000,0.000,stitch,1,p2',
  '0.000,0.000,end,1,',
  '',
].join('\n');

const machine: Machine = {
  needles: [{ needle: 1, hex: null }],
  hoops: [{ id: '130x180', name: '130 x 180 mm', widthMm: 130, heightMm: 180 }],
  hoop: '130x180',
  speed: 800,
  timeScale: 1,
  state: 'ready',
  job: 'j1',
  queue: [],
};
const job: MachineJob = {
  id: 'j1',
  name: 'Badge',
  state: 'ready',
  stitch: 0,
  stitches: 4,
  row: 0,
  thread: 0,
  waitsFor: null,
  minutesLeft: 0.1,
  report: null,
};

const CLOTHS = [
  { id: 'fair-shirt', name: 'Fair shirt jersey', fabric: 'jersey' },
  { id: 'tea-towel', name: 'Tea towel cotton', fabric: 'quilting-cotton' },
];

describe('the practice machine', () => {
  let api: jasmine.SpyObj<MachineApi>;
  let fixture: ComponentFixture<MachinePage>;
  let hear: (job: MachineJob) => void;
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const buttons = (): string[] =>
    [...page().querySelectorAll<HTMLElement>('.acts button')].map((button) => button.innerText.trim());

  const start = async (first: MachineJob = job): Promise<void> => {
    api.jobs.and.resolveTo([first]);
    fixture = TestBed.createComponent(MachinePage);
    for (let i = 0; i < 4; i++) {
      await new Promise((resolve) => setTimeout(resolve));
      await fixture.whenStable();
    }
  };

  beforeEach(() => {
    api = jasmine.createSpyObj<MachineApi>('MachineApi', [
      'machine',
      'jobs',
      'configure',
      'act',
      'list',
      'listen',
      'cloths',
      'photo',
    ]);
    api.cloths.and.resolveTo(CLOTHS);
    api.machine.and.resolveTo(machine);
    api.list.and.resolveTo(readStitchList(LIST));
    api.listen.and.callFake((listener) => {
      hear = listener;
      return () => undefined;
    });
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: MachineApi, useValue: api }] });
  });

  it('offers what an operator can do now, and nothing else', async () => {
    await start();
    expect(buttons()).toEqual(['Start', 'End the job']);
    for (const [state, waitsFor, first] of [
      ['sewing', null, 'Pause'],
      ['paused', null, 'Go on'],
      ['waiting', 'thread', 'Threaded, go on'],
      ['waiting', 'stop', 'Done, go on'],
      ['broken', 'mend', 'Threaded again, go on'],
    ] as const) {
      hear({ ...job, state, waitsFor, row: 5, stitch: 2 });
      await fixture.whenStable();
      expect(buttons()[0]).toBe(first);
    }
    expect(page().querySelector('.asks')?.textContent).toContain('Thread the needle again');
  });

  it('says which thread it waits for', async () => {
    await start({ ...job, state: 'waiting', waitsFor: 'thread', row: 5, stitch: 2, thread: 1 });
    expect(page().querySelector('.asks')?.textContent).toContain('Put in Ember #d8602a');
    expect([...page().querySelectorAll('.threads li')].map((li) => li.textContent?.trim())).toHaveSize(2);
  });

  it('carries acts out, and shows a report in the end', async () => {
    await start();
    const report = { minutes: 0.1, stops: 1, breaks: 0, trims: 1, threads: [], ended: false };
    api.act.and.resolveTo({ ...job, state: 'done', stitch: 4, row: 9, report });
    page().querySelector<HTMLElement>('.acts button')?.click();
    api.jobs.and.resolveTo([{ ...job, state: 'done', stitch: 4, row: 9, report }]);
    for (let i = 0; i < 4; i++) await fixture.whenStable();
    expect(api.act).toHaveBeenCalledOnceWith('j1', 'start');
    expect(page().innerText).toContain('Machine ran');
    // What was sewn can be photographed, on the cloth of its fabric first.
    expect(buttons()).toEqual(['Keep the photograph']);
    expect(page().querySelector('.photo')?.textContent).toContain('Tea towel cotton');
    api.photo.and.rejectWith(new Error('it is not sewn to its end yet'));
    page().querySelector<HTMLElement>('.photo button')?.click();
    await fixture.whenStable();
    expect(api.photo).toHaveBeenCalledOnceWith('j1', 'tea-towel');
    expect(document.body.innerText).toContain('No photograph was taken: it is not sewn to its end yet.');
  });

  it('says that it does not answer, and what to do without jobs', async () => {
    api.machine.and.rejectWith(new Error('the server cannot be reached'));
    await start();
    expect(page().querySelector('[role="alert"]')?.textContent).toContain('the server cannot be reached');
  });
});
