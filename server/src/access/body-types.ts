import express, { type RequestHandler } from 'express';
import { UserError } from '../user-error.js';

/** Lets in only bodies of these types, such as `image/*`; requests without a body pass. */
export function bodyTypes(...types: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const has =
      request.headers['transfer-encoding'] !== undefined || Number(request.headers['content-length'] ?? 0) > 0;
    // Programs may leave the type out where any file is taken.
    const named = request.headers['content-type'] !== undefined;
    const fits = named ? Boolean(request.is([...types])) : types.includes('application/octet-stream');
    if (has && !fits) {
      const said = String(request.headers['content-type'] ?? 'nothing').slice(0, 60);
      throw new UserError(415, `the body must be ${types.join(' or ')}, not ${said}`);
    }
    next();
  };
}

/** Reads a body of JSON. */
export function jsonBody(limit: string): RequestHandler {
  const isJson = bodyTypes('application/json');
  const read = express.json({ limit });
  return (request, response, next) =>
    isJson(request, response, (error?: unknown) => (error === undefined ? read(request, response, next) : next(error)));
}
