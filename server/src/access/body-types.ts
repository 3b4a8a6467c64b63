import express, { type Request, type RequestHandler } from 'express';
import { UserError } from '../user-error.js';

/** @throws UserError 415 for a body of another type; programs may leave the type out where any file is taken */
function checkType(request: Request, types: readonly string[]): void {
  const { headers } = request;
  const has = headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;
  const said = headers['content-type'];
  const fits = said === undefined ? types.includes('application/octet-stream') : Boolean(request.is([...types]));
  if (has && !fits) {
    throw new UserError(415, `the body must be ${types.join(' or ')}, not ${(said ?? 'nothing').slice(0, 60)}`);
  }
}

/** Lets in only bodies of these types, such as `image/*`; requests without a body pass. */
export function bodyTypes(...types: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    checkType(request, types);
    next();
  };
}

/** Reads a body of JSON. */
export function jsonBody(limit: string): RequestHandler {
  const read = express.json({ limit });
  return (request, response, next) => {
    checkType(request, ['application/json']);
    read(request, response, next);
  };
}
