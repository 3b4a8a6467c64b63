import { TestBed } from '@angular/core/testing';
import { DRAWERS } from './convert-protocol';
import { SpareWorkers } from './spare-workers';

describe('SpareWorkers', () => {
  const Real = Worker;
  let made: string[];
  let spares: SpareWorkers;
  const idle = (): Promise<void> => new Promise((resolve) => requestIdleCallback(() => setTimeout(resolve)));

  beforeEach(async () => {
    // What others have asked for before is made before anything is counted.
    await idle();
    made = [];
    window.Worker = class extends Real {
      constructor(url: string | URL) {
        super(URL.createObjectURL(new Blob([''], { type: 'text/javascript' })));
        made.push(String(url));
      }
    };
    spares = TestBed.inject(SpareWorkers);
  });

  afterEach(() => (window.Worker = Real));

  it('starts a worker when there is none waiting', () => {
    const worker = spares.take('convert');
    expect(made.length).toBe(1);
    worker.terminate();
  });

  it('has those ready that a project needs, each given once, however often it is asked to', async () => {
    spares.prepare();
    spares.prepare();
    await idle();
    expect(made.length).toBe(2 + DRAWERS);
    spares.prepare();
    await idle();
    expect(made.length).toBe(2 + DRAWERS);
    const taken = [spares.take('convert'), spares.take('picture'), spares.take('draw'), spares.take('draw')];
    expect(new Set(taken).size).toBe(4);
    expect(made.length).toBe(2 + DRAWERS);
    taken.push(spares.take('convert'));
    expect(made.length).toBe(3 + DRAWERS);
    for (const worker of taken) worker.terminate();
  });

  it('has the worker that is taken next fetch a picture ahead, and no other', async () => {
    const picture = { hash: 'a'.repeat(64), width: 4, height: 4, kind: 'raster' } as const;
    // Nobody waits yet: nothing is started for it.
    spares.fetchAhead(picture);
    expect(made.length).toBe(0);
    spares.prepare();
    await idle();
    const sent: unknown[] = [];
    const post = spyOn(Worker.prototype, 'postMessage').and.callFake(function (this: Worker, message: unknown) {
      sent.push([this, (message as { path?: string[] }).path?.[0]]);
    });
    spares.fetchAhead(picture);
    const next = spares.take('convert');
    expect(sent).toEqual([[next, 'fetchAhead']]);
    post.and.stub();
    next.terminate();
  });
});
