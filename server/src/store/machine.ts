import type { Database } from 'better-sqlite3';
import type { MachineSettings } from '@open-kite/contract';
import type { Progress } from '../machine/sewing-job.js';

/** A job as it is stored; its list is read only where it is sewn. */
export interface StoredJob {
  readonly id: string;
  readonly name: string;
  readonly progress: Progress;
}

/** The practice machine's memory. */
export interface MachineStore {
  settings(): MachineSettings | undefined;
  setSettings(settings: MachineSettings): void;
  /** Jobs in the order they came. */
  jobs(): StoredJob[];
  list(id: string): string | undefined;
  add(id: string, name: string, list: string, progress: Progress): void;
  setProgress(id: string, progress: Progress): void;
  /** Forgets the oldest jobs that are done, but for so many. */
  forgetDone(keep: number): void;
}

interface JobRow {
  id: string;
  name: string;
  state: Progress['state'];
  row: number;
  seconds: number;
  stops: number;
  breaks: number;
  waitsFor: Progress['waitsFor'];
  ended: number;
}

export function createMachineStore(db: Database, now: () => string): MachineStore {
  const settings = db.prepare<[], { needles: 1 | 6; hoop: string; speed: number; timeScale: number }>(
    'SELECT needles, hoop, speed, time_scale AS timeScale FROM machine WHERE id = 1',
  );
  const setSettings = db.prepare(
    `INSERT INTO machine (id, needles, hoop, speed, time_scale) VALUES (1, @needles, @hoop, @speed, @timeScale)
     ON CONFLICT (id) DO UPDATE SET needles = @needles, hoop = @hoop, speed = @speed, time_scale = @timeScale`,
  );
  const jobs = db.prepare<[], JobRow>(
    `SELECT id, name, state, row, seconds, stops, breaks, waits_for AS waitsFor, ended
     FROM machine_job JOIN machine_progress ON job_id = id ORDER BY place`,
  );
  const list = db.prepare<[string], { list: string }>('SELECT list FROM machine_job WHERE id = ?');
  const addJob = db.prepare(
    `INSERT INTO machine_job (id, name, list, created_at, place)
     VALUES (@id, @name, @list, @at, (SELECT COALESCE(MAX(place), 0) + 1 FROM machine_job))`,
  );
  const addProgress = db.prepare(
    `INSERT INTO machine_progress (job_id, state, row, seconds, stops, breaks, waits_for, ended)
     VALUES (@id, @state, @row, @seconds, @stops, @breaks, @waitsFor, @ended)`,
  );
  const setProgress = db.prepare(
    `UPDATE machine_progress SET state = @state, row = @row, seconds = @seconds, stops = @stops, breaks = @breaks,
     waits_for = @waitsFor, ended = @ended WHERE job_id = @id`,
  );
  const forget = db.prepare(
    `DELETE FROM machine_job WHERE id IN (
       SELECT id FROM machine_job JOIN machine_progress ON job_id = id
       WHERE state = 'done' ORDER BY place DESC LIMIT -1 OFFSET ?)`,
  );
  const flat = (id: string, progress: Progress) => ({ ...progress, id, ended: progress.ended ? 1 : 0 });
  const add = db.transaction((id: string, name: string, text: string, progress: Progress) => {
    addJob.run({ id, name, list: text, at: now() });
    addProgress.run(flat(id, progress));
  });
  return {
    settings: () => settings.get(),
    setSettings: (given) => void setSettings.run(given),
    jobs: () =>
      jobs.all().map(({ id, name, ended, ...rest }) => ({ id, name, progress: { ...rest, ended: ended === 1 } })),
    list: (id) => list.get(id)?.list,
    add,
    setProgress: (id, progress) => void setProgress.run(flat(id, progress)),
    forgetDone: (keep) => void forget.run(keep),
  };
}
