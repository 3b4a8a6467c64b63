import { seedSamples } from '@open-kite/demo';
import { serve } from '@open-kite/server';
import { UserError } from '@open-kite/server/user-error';

/** `open-kite serve`: the application in a browser; samples are made while it already answers. */
export async function serveCommand(flags: {
  readonly port: number;
  readonly data: string;
  readonly demo?: boolean;
}): Promise<void> {
  const seed = flags.demo ? seedSamples : undefined;
  const server = await serve({ port: flags.port, data: flags.data, seed }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE') throw new UserError(400, `--port: ${flags.port} is already in use`);
    throw error;
  });
  const since = (): string => performance.now().toFixed(0).padStart(4);
  process.stdout.write(`Open Kite is ready at ${server.address} (after ${(Number(since()) / 1000).toFixed(1)} s)\n`);
  const stop = (): void => void server.close().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
  if (!seed) return;
  await server.seeded.then(
    () => process.stdout.write(`All samples are made (after ${(Number(since()) / 1000).toFixed(1)} s)\n`),
    (error: unknown) => process.stderr.write(`open-kite: a sample could not be made: ${String(error)}\n`),
  );
}
