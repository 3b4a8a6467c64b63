import { createHash, randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { parseCookie, stringifySetCookie } from 'cookie';
import { Router, type Request, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { UserError } from '../user-error.js';
import { jsonBody } from './body-types.js';

/** Characters a passcode has at least. */
const SHORTEST_PASSCODE = 6;
const COOKIE = 'open-kite-pass';
const DAYS = 30;
/** Wrong tries an address has in a while. */
const TRIES = 8;
const WHILE_MS = 10 * 60_000;
const MOST_PASSES = 1000;

/** A passcode as it is kept: what was typed in cannot be had from it. */
export interface KeptPasscode {
  fits(passcode: string): boolean;
}

/** @throws UserError where it is too short */
export function keepPasscode(passcode: string): KeptPasscode {
  if (passcode.length < SHORTEST_PASSCODE) {
    throw new UserError(400, `the passcode must have at least ${SHORTEST_PASSCODE} characters`);
  }
  const salt = randomBytes(16);
  const hash = (text: string): Buffer => scryptSync(text.slice(0, 1000), salt, 32);
  const kept = hash(passcode);
  return { fits: (text) => timingSafeEqual(hash(text), kept) };
}

const digest = (pass: string): string => createHash('sha256').update(pass).digest('base64');

/** Asks everybody for the passcode once; until then nothing else is answered. */
export function passcodeGate(passcode: KeptPasscode): Router {
  const passes = new Set<string>();
  const hasPass = (request: Request): boolean => {
    const pass = parseCookie(request.headers.cookie ?? '')[COOKIE];
    return pass !== undefined && passes.has(digest(pass));
  };
  const router = Router();
  const tries = rateLimit({
    windowMs: WHILE_MS,
    limit: TRIES,
    skipSuccessfulRequests: true,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: () => {
      throw new UserError(429, 'too many wrong passcodes; try again in ten minutes');
    },
  });
  router.post('/enter', tries, jsonBody('4kb'), (request, response) => {
    const { passcode: typed } = (request.body ?? {}) as { passcode?: unknown };
    if (typeof typed !== 'string' || !passcode.fits(typed)) throw new UserError(403, 'that is not the passcode');
    const pass = randomBytes(32).toString('base64url');
    const [oldest] = passes;
    if (passes.size >= MOST_PASSES && oldest !== undefined) passes.delete(oldest);
    passes.add(digest(pass));
    const how = { httpOnly: true, sameSite: 'strict', path: '/', maxAge: DAYS * 86_400 } as const;
    response
      .set('Set-Cookie', stringifySetCookie(COOKIE, pass, how))
      .status(204)
      .end();
  });
  router.get('/enter.js', (_request, response) => {
    response.type('text/javascript').set('Cache-Control', 'no-store').send(SCRIPT);
  });
  router.use(askForPasscode(hasPass));
  return router;
}

const askForPasscode =
  (hasPass: (request: Request) => boolean): RequestHandler =>
  (request, response, next) => {
    if (hasPass(request)) return next();
    if (request.method === 'GET' && request.accepts(['json', 'html']) === 'html' && !request.path.startsWith('/api/')) {
      const nonce = response.locals['nonce'] as string;
      response.status(403).set('Cache-Control', 'no-store').type('html').send(page(nonce));
      return;
    }
    throw new UserError(403, 'the passcode is needed first');
  };

const SCRIPT = `const form = document.querySelector('form');
form.addEventListener('submit', async (event) => {
  event.preventDefault();
  const passcode = new FormData(form).get('passcode');
  const answer = await fetch('/enter', {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ passcode }),
  }).catch(() => undefined);
  if (answer?.ok) location.reload();
  else document.querySelector('[role=alert]').textContent = answer ? (await answer.json()).error : 'The server does not answer.';
});
`;

const page = (nonce: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Open Kite</title>
<style nonce="${nonce}">
body { font: 16px/1.5 system-ui, sans-serif; margin: 0; min-height: 100vh; display: grid; place-items: center; background: #f4f1ea; color: #1f2d2c; }
form { display: grid; gap: 12px; width: 18rem; }
input, button { font: inherit; padding: 10px 12px; border: 1px solid #6d7672; border-radius: 4px; background: #fbf8f1; color: inherit; }
button { background: #1f2d2c; color: #fbf8f1; }
p::first-letter { text-transform: uppercase; }
p { margin: 0; min-height: 1.5em; color: #a13417; }
@media (prefers-color-scheme: dark) { body { background: #182221; color: #efeae0; } input { background: #223130; } p { color: #f08a63; } }
</style></head>
<body><form><label for="passcode">Passcode of this Open Kite</label>
<input id="passcode" name="passcode" type="password" autocomplete="current-password" required autofocus>
<button type="submit">Enter</button><p role="alert"></p></form><script src="/enter.js"></script></body></html>
`;
