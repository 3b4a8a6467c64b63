import { hostname } from 'node:os';
import { isIP } from 'node:net';
import type { RequestHandler } from 'express';
import { UserError } from '../user-error.js';

const READS = new Set(['GET', 'HEAD']);

/** Name and port of a Host header; undefined where it is none. */
function hostOf(header: string | undefined): { name: string; port: string } | undefined {
  const found = /^(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(?::(\d{1,5}))?$/i.exec(header ?? '');
  return found?.[1] ? { name: found[1].toLowerCase().replace(/^\[|\]$/g, ''), port: found[2] ?? '80' } : undefined;
}

const isLoopback = (name: string): boolean =>
  name === 'localhost' || name === '::1' || /^127(\.\d{1,3}){3}$/.test(name);

/**
 * Lets in only what was asked of this server, by its own pages or by programs. A page elsewhere reaches a server on this
 * machine as well: under a name of its own that leads here, or by a form or script that posts to it.
 * @param open reached from other machines too, under any of their numbers for this one
 */
export function ownPagesOnly(open: boolean): RequestHandler {
  const known = (name: string): boolean =>
    isLoopback(name) || (open && (isIP(name) !== 0 || name === hostname().toLowerCase()));
  return (request, _response, next) => {
    const host = hostOf(request.headers.host);
    const port = String(request.socket.localPort ?? '');
    if (!host || !known(host.name) || host.port !== port) {
      throw new UserError(421, 'this server does not answer under that name');
    }
    const { origin } = request.headers;
    const own = `http://${request.headers.host ?? ''}`.toLowerCase();
    const site = request.headers['sec-fetch-site'];
    const isPage = READS.has(request.method) && !request.path.startsWith('/api/');
    const foreign =
      (origin !== undefined && origin.toLowerCase() !== own) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none');
    // A link may lead to a page from anywhere; nothing else may come from elsewhere.
    if (foreign && !isPage) throw new UserError(403, 'this may only be asked for by pages of this server');
    next();
  };
}
