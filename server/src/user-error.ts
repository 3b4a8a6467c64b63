/** Something the user can understand and mend: bad input, a stale save, a name that does not exist. */
export class UserError extends Error {
  /** @param status HTTP status that fits; the command line exits with 2 for all of them */
  constructor(
    readonly status: 400 | 403 | 404 | 409 | 413 | 415 | 421 | 422 | 429 | 503,
    message: string,
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
    this.name = 'UserError';
  }
}

/** Reads something a request carries; what core finds wrong with it is the user's to hear. */
export function understood<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof RangeError) throw new UserError(400, error.message);
    throw error;
  }
}
