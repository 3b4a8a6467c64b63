import { spawn, type ChildProcess } from 'node:child_process';
import { request } from 'node:http';
import { fileURLToPath } from 'node:url';

const CLI = fileURLToPath(new URL('../../../cli/bin/open-kite.js', import.meta.url));

/** A server of its own, in a process that can be killed. */
export interface HarmedServer {
  readonly child: ChildProcess;
  readonly address: URL;
}

/** Starts one over a folder. @throws Error where it ends before it answers */
export async function startServer(folder: string): Promise<HarmedServer> {
  const child = spawn('node', [CLI, 'serve', '--port', '0', '--data', folder], { stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (part: Buffer) => (said += part.toString()));
  const address = await new Promise<string>((resolve, reject) => {
    child.on('exit', () => reject(new Error(`the server ended: ${said.slice(0, 400)}`)));
    child.stdout.on('data', (part: Buffer) => {
      const found = /http:\/\/\S+/.exec(part.toString());
      if (found) resolve(found[0]);
    });
  });
  return { child, address: new URL(address) };
}

/** Ends a server, and waits until it has. */
export async function stopServer({ child }: HarmedServer, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await gone;
}

export interface Answer {
  /** 0 where the line broke off, -1 where nothing could be sent. */
  readonly status: number;
  readonly ms: number;
  readonly text: string;
}

/** Asks a server on a line of its own. */
export function ask(
  address: URL,
  method: string,
  path: string,
  headers: Readonly<Record<string, string>>,
  body?: Buffer | string,
): Promise<Answer> {
  const from = performance.now();
  const length = body === undefined ? {} : { 'content-length': String(Buffer.byteLength(body)) };
  return new Promise((resolve) => {
    const done = (status: number, text: string): void => resolve({ status, text, ms: performance.now() - from });
    try {
      const sent = request(
        {
          hostname: address.hostname,
          port: address.port,
          method,
          path,
          headers: { ...headers, ...length },
          timeout: 60_000,
          agent: false,
        },
        (got) => {
          const parts: Buffer[] = [];
          got.on('data', (part: Buffer) => parts.push(part));
          got.on('end', () => done(got.statusCode ?? 0, Buffer.concat(parts).toString()));
          got.on('error', () => done(0, 'broken'));
        },
      );
      sent.on('error', (error) => done(0, error.message));
      sent.on('timeout', () => sent.destroy(new Error('no answer in a minute')));
      sent.end(body);
    } catch (error) {
      // What cannot even be written as a request harms nobody.
      done(-1, (error as Error).message);
    }
  });
}

/** Asks in JSON. */
export const askJson = (address: URL, method: string, path: string, body?: unknown): Promise<Answer> =>
  ask(
    address,
    method,
    path,
    { 'content-type': 'application/json' },
    body === undefined ? undefined : JSON.stringify(body),
  );

export const percentile = (list: readonly number[], share: number): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0;
