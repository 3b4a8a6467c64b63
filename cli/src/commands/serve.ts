import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { seedSamples } from '@open-kite/demo';
import { serve } from '@open-kite/server';
import { UserError } from '@open-kite/server/user-error';
import { readInput } from '../files.js';

export interface ServeFlags {
  readonly port: number;
  readonly data: string;
  readonly demo?: boolean;
  readonly host?: string;
  readonly passcodeFile?: string;
}

/** The passcode others are asked for: from a file, or asked for here; none where only this machine reaches the server. */
async function passcodeFor({ host, passcodeFile }: ServeFlags): Promise<string | undefined> {
  if (passcodeFile !== undefined) return (await readInput(passcodeFile)).toString('utf8').replace(/\r?\n[^]*$/, '');
  if (host === undefined || !process.stdin.isTTY) return undefined;
  const silent = new Writable({ write: (_part, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: silent, terminal: true });
  process.stdout.write('Passcode that others are asked for: ');
  try {
    return await lines.question('');
  } finally {
    lines.close();
    process.stdout.write('\n');
  }
}

/** `open-kite serve`: the application in a browser; samples are made while it already answers. */
export async function serveCommand(flags: ServeFlags): Promise<void> {
  const seed = flags.demo ? seedSamples : undefined;
  const { port, data, host } = flags;
  const passcode = await passcodeFor(flags);
  const server = await serve({ port, data, host, passcode, seed }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE') throw new UserError(400, `--port: ${port} is already in use`);
    if (error.code === 'EADDRNOTAVAIL') throw new UserError(400, `--host: ${host ?? ''} is no address of this machine`);
    throw error;
  });
  const since = (): string => performance.now().toFixed(0).padStart(4);
  process.stdout.write(`Open Kite is ready at ${server.address} (after ${(Number(since()) / 1000).toFixed(1)} s)\n`);
  if (server.damage !== undefined) {
    process.stderr.write(
      `open-kite: ${server.damage}. It is only read: what can be opened can be shared out, nothing is saved.\n`,
    );
  }
  const stop = (): void => void server.close().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
  if (!seed) return;
  await server.seeded.then(
    () => process.stdout.write(`All samples are made (after ${(Number(since()) / 1000).toFixed(1)} s)\n`),
    (error: unknown) => process.stderr.write(`open-kite: a sample could not be made: ${String(error)}\n`),
  );
}
