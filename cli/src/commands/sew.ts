import { basename, extname } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { checked, jobCreatedSchema, machineJobSchema, machineSchema, type MachineJob } from '@open-kite/contract';
import { writeStitchList } from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';
import type { Schema } from 'yup';
import { about, openDesign } from '../files.js';

const LOOK_MS = 250;
/** A machine that does not answer so many times in a row is off. */
const MOST_SILENT = 20;

interface SewFlags {
  readonly machine: string;
  readonly hoop?: string;
  readonly quiet?: boolean;
}

/** `open-kite sew`: sends a design to the practice machine, does what an operator does at it, and waits for its report. */
export async function sewCommand(file: string, { machine, hoop, quiet }: SewFlags): Promise<void> {
  const base = addressOf(machine);
  const { sewing } = await openDesign(file);
  if (hoop !== undefined) await putHoop(base, hoop);
  const name = encodeURIComponent(basename(file, extname(file)));
  const { id } = await ask(
    base,
    jobCreatedSchema,
    'POST',
    `/jobs?name=${name}`,
    writeStitchList(sewing),
    'text/csv',
  ).catch((error: unknown) => {
    throw error instanceof UserError && error.status === 422 ? about(file, error) : error;
  });
  const act = (action: string): Promise<MachineJob> =>
    ask(base, machineJobSchema, 'POST', `/jobs/${id}/actions`, JSON.stringify({ action }), 'application/json');
  let silent = 0;
  for (;;) {
    let job: MachineJob;
    try {
      job = await ask(base, machineJobSchema, 'GET', `/jobs/${id}`);
      silent = 0;
      if (job.state === 'ready') {
        const { job: under } = await ask(base, machineSchema, 'GET', '');
        if (under === id) job = await act('start');
      } else if (job.state === 'waiting') job = await act(job.waitsFor === 'thread' ? 'threaded' : 'continue');
      else if (job.state === 'broken') job = await act('mended');
      else if (job.state === 'paused') job = await act('resume');
    } catch (error) {
      // It may have been done meanwhile by somebody at the machine, or be starting again.
      if (!(error instanceof UserError) || (error.status !== 409 && error.status !== 503)) throw error;
      if (error.status === 503 && ++silent > MOST_SILENT) throw error;
      await wait(LOOK_MS);
      continue;
    }
    if (!quiet && process.stderr.isTTY)
      process.stderr.write(`\r${job.stitch} of ${job.stitches} stitches, ${job.state}      `);
    if (job.state === 'done') {
      if (!quiet && process.stderr.isTTY) process.stderr.write('\n');
      if (!quiet) process.stdout.write(`${reportLine(job)}\n`);
      return;
    }
    await wait(LOOK_MS);
  }
}

function reportLine({ stitch, report }: MachineJob): string {
  const { minutes = 0, stops = 0, breaks = 0, trims = 0 } = report ?? {};
  return `${stitch} stitches in ${minutes} min of the machine, ${trims} trims, ${stops} stops, ${breaks} breaks`;
}

function addressOf(machine: string): string {
  try {
    const { origin, pathname } = new URL(machine.includes('://') ? machine : `http://${machine}`);
    const path = pathname.replace(/\/+$/, '');
    return path.endsWith('/api/machine') ? `${origin}${path}` : `${origin}${path}/api/machine`;
  } catch {
    throw new UserError(400, `--machine: "${machine}" is no address`);
  }
}

async function putHoop(base: string, hoop: string): Promise<void> {
  const now = await ask(base, machineSchema, 'GET', '');
  const { speed, timeScale, needles } = now;
  const settings = { hoop, speed, timeScale, needles: needles.length };
  await ask(base, machineSchema, 'PUT', '', JSON.stringify(settings), 'application/json');
}

/** Asks the machine. @throws UserError with its own sentence */
async function ask<T>(
  base: string,
  schema: Schema<T>,
  method: string,
  path: string,
  body?: string,
  type?: string,
): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`${base}${path}`, { method, body, headers: type ? { 'content-type': type } : {} });
  } catch {
    throw new UserError(503, `the machine at ${base} does not answer`);
  }
  const value = (await answer.json().catch(() => null)) as { error?: unknown; reasons?: unknown } | null;
  if (answer.ok) return checked(schema, value);
  const said = typeof value?.error === 'string' ? value.error : `the machine answered ${answer.status}`;
  const status = answer.status === 409 || answer.status === 422 ? answer.status : 400;
  throw new UserError(status, said);
}
