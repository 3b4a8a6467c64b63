import { connect } from 'node:net';
import { request as ask } from 'node:http';
import sharp from 'sharp';
import { serve, type RunningServer } from '../serve.js';
import { keepPasscode } from './passcode.js';

interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly text: string;
}

/** Asks with exactly these headers, which fetch would not allow. */
function raw(
  server: RunningServer,
  method: string,
  path: string,
  headers: Record<string, string>,
  body?: Buffer | string,
): Promise<Answer> {
  const { hostname, port } = new URL(server.address);
  return new Promise((resolve, reject) => {
    const sent = ask({ hostname, port, method, path, headers: { host: `${hostname}:${port}`, ...headers } }, (got) => {
      const parts: Buffer[] = [];
      got.on('data', (part: Buffer) => parts.push(part));
      got.on('end', () =>
        resolve({ status: got.statusCode ?? 0, headers: got.headers, text: Buffer.concat(parts).toString() }),
      );
    });
    sent.on('error', reject);
    if (body !== undefined) sent.setHeader('content-length', Buffer.byteLength(body));
    sent.end(body);
  });
}

describe('pages elsewhere', () => {
  let server: RunningServer;
  let png: Buffer;

  beforeAll(async () => {
    server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' });
    const create = { width: 4, height: 4, channels: 3 as const, background: '#204060' };
    png = await sharp({ create }).png().toBuffer();
  });
  afterAll(() => server.close());

  const port = (): string => new URL(server.address).port;

  it('reach nothing under a name of their own', async () => {
    for (const host of ['evil.test', `evil.test:${port()}`, `127.0.0.1.evil.test:${port()}`, '127.0.0.1:1']) {
      const answer = await raw(server, 'GET', '/api/projects', { host });
      expect([400, 421]).withContext(host).toContain(answer.status);
      expect((await raw(server, 'DELETE', '/api/projects/x', { host })).status)
        .withContext(host)
        .not.toBe(404);
    }
    for (const host of [`localhost:${port()}`, `LOCALHOST:${port()}`, `127.0.0.1:${port()}`, `[::1]:${port()}`]) {
      expect((await raw(server, 'GET', '/api/projects', { host })).status)
        .withContext(host)
        .toBe(200);
    }
  });

  it('change and read nothing, whatever they post', async () => {
    const foreign: Record<string, string>[] = [
      { origin: 'http://evil.test' },
      { origin: 'null' },
      { origin: `http://localhost:${Number(port()) + 1}` },
      { 'sec-fetch-site': 'cross-site' },
      { 'sec-fetch-site': 'same-site' },
    ];
    const requests: [string, string, Record<string, string>, (string | Buffer)?][] = [
      ['GET', '/api/projects', {}],
      ['POST', '/api/pictures', { 'content-type': 'image/png' }, png],
      ['POST', '/api/pictures', { 'content-type': 'text/plain' }, png],
      ['POST', '/api/pictures', {}, png],
      ['POST', '/api/projects', { 'content-type': 'application/json' }, '{"name":"x"}'],
      ['PUT', '/api/stash', { 'content-type': 'application/json' }, '{"entries":[]}'],
      ['DELETE', '/api/projects/x', {}],
      ['POST', '/api/projects/x/restore', {}],
    ];
    for (const headers of foreign) {
      for (const [method, path, more, body] of requests) {
        const { status } = await raw(server, method, path, { ...headers, ...more }, body);
        expect(status)
          .withContext(`${method} ${path} ${JSON.stringify(headers)}`)
          .toBe(403);
      }
    }
    expect(JSON.parse((await raw(server, 'GET', '/api/projects', {})).text)).toEqual([]);
  });

  it('may link to pages', async () => {
    const { status } = await raw(server, 'GET', '/', { 'sec-fetch-site': 'cross-site', accept: 'text/html' });
    expect([200, 503]).toContain(status);
  });

  it('get only the types of bodies taken that the API takes', async () => {
    const own = { origin: server.address };
    const post = async (path: string, type: string | undefined, body: Buffer | string): Promise<number> =>
      (await raw(server, 'POST', path, { ...own, ...(type ? { 'content-type': type } : {}) }, body)).status;
    expect(await post('/api/pictures', 'image/png', png)).toBe(201);
    expect(await post('/api/pictures', undefined, png)).toBe(201);
    for (const type of ['text/plain', 'multipart/form-data; boundary=a', 'application/x-www-form-urlencoded']) {
      expect(await post('/api/pictures', type, png))
        .withContext(type)
        .toBe(415);
      expect(await post('/api/projects', type, '{}'))
        .withContext(type)
        .toBe(415);
      expect(await post('/api/charts', type, '{}'))
        .withContext(type)
        .toBe(415);
      expect(await post('/api/chart', type, '{}'))
        .withContext(type)
        .toBe(415);
    }
    expect(await post('/api/projects', undefined, '{}')).toBe(415);
  });

  it('are answered in JSON even where what they send is no HTTP', async () => {
    const { hostname, port: at } = new URL(server.address);
    const text = await new Promise<string>((resolve) => {
      let got = '';
      const socket = connect(Number(at), hostname, () => socket.write('GARBAGE / nonsense\r\n\r\n'));
      socket.on('data', (part) => (got += part.toString()));
      socket.on('close', () => resolve(got));
    });
    expect(text).toContain('400');
    expect(text).toContain('"error"');
  });
});

describe('a passcode', () => {
  it('is needed where other machines reach the server', async () => {
    await expectAsync(serve({ port: 0, data: ':memory:', host: '0.0.0.0' })).toBeRejectedWithError(/--passcode-file/);
    await expectAsync(serve({ port: 0, data: ':memory:', host: '0.0.0.0', passcode: 'abc' })).toBeRejectedWithError(
      /at least 6/,
    );
  });

  it('is asked of everybody, kept so that it cannot be read, and may be tried a few times only', async () => {
    const server = await serve({
      port: 0,
      data: ':memory:',
      host: '0.0.0.0',
      passcode: 'kites up',
      logLevel: 'silent',
    });
    try {
      const page = await raw(server, 'GET', '/', { accept: 'text/html' });
      expect([page.status, page.text.includes('Passcode')]).toEqual([403, true]);
      expect((await raw(server, 'GET', '/api/projects', {})).status).toBe(403);
      const type = { 'content-type': 'application/json' };
      const enter = (passcode: unknown): Promise<Answer> =>
        raw(server, 'POST', '/enter', type, JSON.stringify({ passcode }));
      expect((await enter('kites down')).status).toBe(403);
      expect((await enter(['kites up'])).status).toBe(403);
      const entered = await enter('kites up');
      expect(entered.status).toBe(204);
      const cookie = String(entered.headers['set-cookie']);
      expect(cookie).toMatch(/HttpOnly/);
      expect(cookie).toMatch(/SameSite=Strict/);
      const pass = { cookie: cookie.split(';')[0] ?? '' };
      expect((await raw(server, 'GET', '/api/projects', pass)).status).toBe(200);
      expect((await raw(server, 'GET', '/api/projects', { cookie: 'open-kite-pass=nonsense' })).status).toBe(403);
      const statuses: number[] = [];
      for (let i = 0; i < 10; i++) statuses.push((await enter(`guess ${i}`)).status);
      expect(statuses.at(-1)).toBe(429);
      // The right one no longer helps whoever guesses; those inside stay.
      expect((await enter('kites up')).status).toBe(429);
      expect((await raw(server, 'GET', '/api/projects', pass)).status).toBe(200);
    } finally {
      await server.close();
    }
  });

  it('is kept as a hash', () => {
    const kept = keepPasscode('lantern bay');
    expect(JSON.stringify(kept)).not.toContain('lantern');
    expect([kept.fits('lantern bay'), kept.fits('lantern bay '), kept.fits('')]).toEqual([true, false, false]);
  });
});
