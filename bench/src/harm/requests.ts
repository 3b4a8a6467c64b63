import { seededRandom } from '@open-kite/core';
import { oneOf } from './files.js';

export interface HostileRequest {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body?: string;
}

const PATHS = [
  '/api/projects',
  '/api/pictures',
  '/api/charts',
  '/api/stash',
  '/api/chart',
  '/api/projects/x',
  '/api/projects/../../etc/passwd',
  '/api/projects/%2e%2e%2f',
  '/api/pictures/x/pixels',
  '/api/projects/x/preview',
  '/api/projects/x/designs/y',
  '/api/nothing',
  '/..%2f..%2fetc/passwd',
  '/%00',
  '/enter',
];
const METHODS = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD'];
const TYPES = [
  'application/json',
  'text/plain',
  'multipart/form-data; boundary=x',
  'image/png',
  'application/octet-stream',
  'application/x-www-form-urlencoded',
];
const BODIES = [
  '',
  '{',
  'null',
  '[]',
  '"x"',
  '{"__proto__":{"admin":true},"name":"x","picture":"y"}',
  '{"constructor":{"prototype":{}},"name":"x","picture":"y"}',
  '{"name":"x","picture":"__proto__"}',
  '{"name":"x","picture":"y","recipe":{"version":99}}',
  '{"name":"x","picture":"y","recipe":{"version":7,"objects":[{"kind":"__proto__"}]}}',
  '{"revision":1,"name":"x","recipe":{},"pictures":{"__proto__":"x","constructor":"y"},"keep":0,"entries":[],"position":0}',
  '{"revision":1e400,"keep":-1,"position":1.5}',
  `{"name":"${'x'.repeat(5000)}"}`,
  `${'['.repeat(20_000)}`,
  `{"entries":[${'{"chart":"x"},'.repeat(3000)}{}]}`,
  '{"name":"\\u0000","threads":[{"code":"","name":"","hex":"red"}]}',
];

/** Requests meant to do harm, the same for the same seed. */
export function hostileRequests(count: number, seed: number): HostileRequest[] {
  const random = seededRandom(seed);
  const one = <T>(list: readonly T[]): T => oneOf(random, list);
  return Array.from({ length: count }, () => {
    const method = one(METHODS);
    const headers: Record<string, string> = {};
    if (random() < 0.8) headers['content-type'] = one(TYPES);
    if (random() < 0.2) headers['x-figures'] = one(['{', '{"stitches":-1}', '{"__proto__":1}', 'null']);
    if (random() < 0.1) headers['cookie'] = `open-kite-pass=${'x'.repeat(3000)}`;
    const body = method === 'GET' || method === 'HEAD' ? undefined : one(BODIES);
    return { method, path: one(PATHS), headers, body };
  });
}
