import {
  CHANGE,
  convert,
  emptyRecipe,
  newLetters,
  readStitchList,
  TRIM,
  writeStitchList,
  type Sewing,
} from '@open-kite/core';
import type { MachineJob, MachineSettings } from '@open-kite/contract';
import { createMachineStore, type MachineStore } from '../store/machine.js';
import { openDatabase } from '../store/database.js';
import { serve, type RunningServer } from '../serve.js';
import { UserError } from '../user-error.js';
import { PracticeMachine, type Clock } from './machine.js';

const FAST: MachineSettings = { needles: 1, hoop: '130x180', speed: 800, timeScale: 60 };

/** A clock that stands still until somebody moves it. */
class StillClock implements Clock {
  private time = 0;
  private readonly work = new Set<() => void>();
  readonly now = (): number => this.time;
  readonly every = (_ms: number, work: () => void): (() => void) => {
    this.work.add(work);
    return () => this.work.delete(work);
  };

  pass(seconds: number): void {
    for (let i = 0; i < seconds * 10; i++) {
      this.time += 100;
      for (const each of [...this.work]) each();
    }
  }
}

/** Two texts in two threads, or as many as asked. */
async function twoThreads(count = 2, text = 'Kite'): Promise<Sewing> {
  const objects = Array.from({ length: count }, (_, i) => ({
    ...newLetters(`l${i}`, { text, heightMm: 8 }, { hex: `#2040${(16 + i * 20).toString(16)}` }),
    place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: i * 12 - 30 },
  }));
  return convert({ pictures: {}, recipe: { ...emptyRecipe(), objects }, charts: [] });
}
const trimsOf = ({ stitches }: Sewing): number => stitches.command.filter((command) => command === TRIM).length;

describe('the practice machine', () => {
  let store: MachineStore;
  let clock: StillClock;
  let machine: PracticeMachine;
  let sewing: Sewing;

  const state = (id: string): MachineJob => machine.job(id);
  /** Does whatever a job waits for until it is done. */
  const sewThrough = (id: string): MachineJob => {
    for (let i = 0; i < 500 && state(id).state !== 'done'; i++) {
      const { state: now, waitsFor } = state(id);
      if (now === 'ready') machine.act(id, 'start');
      else if (now === 'waiting') machine.act(id, waitsFor === 'thread' ? 'threaded' : 'continue');
      clock.pass(1);
    }
    return state(id);
  };

  beforeAll(async () => {
    sewing = readStitchList(writeStitchList(await twoThreads()));
  });

  beforeEach(() => {
    store = createMachineStore(openDatabase(':memory:'), () => '2026-01-01T00:00:00.000Z');
    clock = new StillClock();
    machine = new PracticeMachine(store, clock);
    machine.configure(FAST);
  });

  it('sews a job to its end, and reports what the list has', () => {
    const id = machine.add('Badge', sewing);
    expect(state(id).state).toBe('ready');
    const done = sewThrough(id);
    expect(done.stitch).toBe(done.stitches);
    expect(done.report?.trims).toBe(trimsOf(sewing));
    expect(done.report?.stops).toBe(1);
    expect(done.report?.ended).toBe(false);
    const sum = done.report?.threads.reduce((all, { stitches }) => all + stitches, 0);
    expect(sum).toBe(done.stitches);
    expect(done.report?.minutes).toBeGreaterThan(0.5);
  });

  it('waits for threads on one needle, and changes them itself on six', () => {
    const { command, thread } = sewing.stitches;
    const next = thread[command.indexOf(CHANGE)];
    const one = machine.add('One', sewing);
    machine.act(one, 'start');
    clock.pass(60);
    expect(state(one)).toEqual(jasmine.objectContaining({ state: 'waiting', waitsFor: 'thread', thread: next }));
    expect(() => machine.act(one, 'continue')).toThrowError(/waiting for the thread/);
    machine.act(one, 'stop');
    machine.configure({ ...FAST, needles: 6 });
    const six = machine.add('Six', sewing);
    machine.act(six, 'start');
    clock.pass(60);
    expect(state(six).state).toBe('done');
    expect(machine.describe().needles.length).toBe(6);
  });

  it('pauses and goes on where it was, and goes back a little after a break', () => {
    machine.configure({ ...FAST, timeScale: 10 });
    const id = machine.add('Badge', sewing);
    machine.act(id, 'start');
    clock.pass(2);
    machine.act(id, 'pause');
    const { stitch } = state(id);
    expect(stitch).toBeGreaterThan(20);
    clock.pass(10);
    expect(state(id).stitch).toBe(stitch);
    machine.act(id, 'resume');
    clock.pass(1);
    const before = state(id).stitch;
    machine.act(id, 'break');
    expect(state(id)).toEqual(jasmine.objectContaining({ state: 'broken', waitsFor: 'mend' }));
    expect(() => machine.act(id, 'resume')).toThrowError(UserError);
    machine.act(id, 'mended');
    expect(state(id).stitch).toBeLessThan(before);
    expect(state(id).stitch).toBeGreaterThan(before - 12);
    expect(sewThrough(id).report?.breaks).toBe(1);
  });

  it('refuses what does not fit, with every reason', async () => {
    machine.configure({ ...FAST, hoop: '100x100', needles: 6 });
    const large = await convert({
      pictures: {},
      recipe: {
        ...emptyRecipe(),
        objects: [newLetters('l', { text: 'A very long line', heightMm: 20 }, { hex: '#204060' })],
      },
      charts: [],
    });
    expect(() => machine.add('Wide', large)).toThrowError(/the hoop 100 x 100 mm does not hold that/);
    const many = await twoThreads(7, 'V');
    let reasons: unknown;
    try {
      machine.add('Many', many);
    } catch (error) {
      reasons = (error as UserError).details['reasons'];
    }
    expect(reasons).toEqual(['it has 7 threads; the machine has 6 needles']);
  });

  it('takes jobs one after the other, and starts none while another is under the needle', () => {
    const first = machine.add('First', sewing);
    const second = machine.add('Second', sewing);
    expect(machine.describe()).toEqual(jasmine.objectContaining({ job: first, queue: [second] }));
    machine.act(first, 'start');
    expect(() => machine.act(second, 'start')).toThrowError(/First is under the needle/);
    expect(() => machine.configure({ ...FAST, needles: 6 })).toThrowError(/stay while a job/);
    sewThrough(first);
    expect(machine.describe().job).toBe(second);
  });

  it('comes back paused at its stitch after it was cut off', () => {
    machine.configure({ ...FAST, timeScale: 10 });
    const id = machine.add('Badge', sewing);
    machine.act(id, 'start');
    clock.pass(1);
    const { row } = state(id);
    // Nothing is closed: as after a kill, only what is stored is left.
    machine = new PracticeMachine(store, clock);
    expect(state(id)).toEqual(jasmine.objectContaining({ state: 'paused', row }));
    machine.act(id, 'resume');
    expect(sewThrough(id).report?.trims).toBe(trimsOf(sewing));
  });
});

describe('the practice machine over HTTP', () => {
  let server: RunningServer;
  let list: string;
  const ask = async (method: string, path: string, body?: unknown, type = 'application/json') => {
    const answer = await fetch(`${server.address}/api/machine${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': type },
      body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
  };

  beforeEach(async () => {
    server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' });
    list = writeStitchList(await twoThreads());
  });
  afterEach(() => server.close());

  it('tells what it is, takes settings, and refuses wrong ones', async () => {
    const { body } = await ask('GET', '');
    expect(body).toEqual(jasmine.objectContaining({ state: 'idle', job: null, hoop: '130x180', timeScale: 1 }));
    expect(body['needles']).toEqual([{ needle: 1, hex: null }]);
    const wrong = { needles: 3, hoop: '130x180', speed: 800, timeScale: 1 };
    expect((await ask('PUT', '', wrong)).body['error']).toBe('needles must be 1 or 6, got 3');
    expect((await ask('PUT', '', { ...wrong, needles: 6, hoop: 'tiny' })).status).toBe(400);
    expect((await ask('PUT', '', { ...wrong, needles: 1, timeScale: 100_000 })).status).toBe(200);
  });

  it('sews a list in no time, and tells every listener', async () => {
    await ask('PUT', '', { needles: 1, hoop: '130x180', speed: 800, timeScale: 100_000 });
    const { status, body } = await ask('POST', '/jobs?name=Badge', list, 'text/csv');
    expect(status).toBe(201);
    const id = String(body['id']);
    const stop = new AbortController();
    const events = await fetch(`${server.address}/api/machine/events`, { signal: stop.signal });
    expect(events.headers.get('content-type')).toContain('text/event-stream');
    await ask('POST', `/jobs/${id}/actions`, { action: 'start' });
    let job = (await ask('GET', `/jobs/${id}`)).body;
    for (let i = 0; i < 50 && job['state'] !== 'done'; i++) {
      if (job['state'] === 'waiting') await ask('POST', `/jobs/${id}/actions`, { action: 'threaded' });
      await new Promise((resolve) => setTimeout(resolve, 20));
      job = (await ask('GET', `/jobs/${id}`)).body;
    }
    expect(job['stitch']).toBe(job['stitches']);
    const reader = events.body?.getReader();
    const heard = new TextDecoder().decode((await reader?.read())?.value);
    stop.abort();
    expect(heard).toContain('event: job\ndata: {');
    expect((await ask('POST', `/jobs/${id}/actions`, { action: 'start' })).status).toBe(409);
  });

  it('answers nonsense with reasons', async () => {
    const { status, body } = await ask('POST', '/jobs', 'no list at all', 'text/csv');
    expect(status).toBe(422);
    expect(body['reasons']).toEqual([body['error']]);
    expect((await ask('POST', '/jobs', '{}', 'application/json')).status).toBe(415);
    expect((await ask('GET', '/jobs/nobody')).status).toBe(404);
  });
});
