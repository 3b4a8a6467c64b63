/** An answer of the API: its status, and what it says, if anything. */
export interface Answered {
  readonly status: number;
  readonly body: unknown;
}

/** Asks the API of a server in JSON. @param address where it listens, once it does */
export const asking =
  (address: () => string) =>
  async (method: string, path: string, body?: unknown): Promise<Answered> => {
    const answer = await fetch(`${address()}/api${path}`, {
      method,
      headers: { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const text = await answer.text();
    return { status: answer.status, body: text === '' ? undefined : JSON.parse(text) };
  };
