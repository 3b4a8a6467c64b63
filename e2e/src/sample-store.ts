import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seedSamples } from '@open-kite/demo';
import { serve } from '@open-kite/server';

let made: Promise<string> | undefined;

/** Makes the samples once for a whole run, and gives every rig a copy of the store. */
export async function copySamples(to: string): Promise<void> {
  made ??= makeSamples();
  cpSync(await made, to, { recursive: true });
}

async function makeSamples(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-samples-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  const server = await serve({ port: 0, data: folder, logLevel: 'silent', seed: seedSamples });
  await server.seeded;
  await server.close();
  return folder;
}
