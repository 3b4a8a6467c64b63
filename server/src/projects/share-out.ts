import { once } from 'node:events';
import { fileStem } from '@open-kite/contract';
import type { Response } from 'express';
import { Zip, ZipPassThrough } from 'fflate';
import type { DesignPool } from '../jobs/design-pool.js';

/** Names of files that differ. */
function differing(): (name: string) => string {
  const taken = new Set<string>();
  return (name) => {
    for (let n = 1; ; n++) {
      const next = n === 1 ? name : `${name}-${n}`;
      if (taken.has(next)) continue;
      taken.add(next);
      return next;
    }
  };
}

const attachment = (response: Response, name: string): Response =>
  response
    .type('zip')
    .set('Cache-Control', 'private, no-store')
    .set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}`);

/**
 * Sends the archives of projects: one as it is, several in a ZIP, each written as soon as it is made, so that no more than one
 * is held in memory.
 * @throws UserError 404 where one of them is not there; nothing has been sent then
 */
export async function shareOut(
  designs: Pick<DesignPool, 'archive'>,
  ids: readonly string[],
  response: Response,
): Promise<void> {
  const [first, ...rest] = ids;
  const { name, bytes } = await designs.archive(first ?? '');
  if (rest.length === 0) {
    attachment(response, `${fileStem(name)}.kite`).send(Buffer.from(bytes));
    return;
  }
  attachment(response, 'projects.zip');
  const fileName = differing();
  const zip = new Zip((error, part, last) => {
    if (error) return void response.destroy(error);
    response.write(part);
    if (last) response.end();
  });
  const add = async (title: string, content: Uint8Array): Promise<void> => {
    // An archive is packed already.
    const file = new ZipPassThrough(`${fileName(fileStem(title))}.kite`);
    zip.add(file);
    file.push(content, true);
    if (response.writableNeedDrain) await Promise.race([once(response, 'drain'), once(response, 'close')]);
  };
  try {
    await add(name, bytes);
    for (const id of rest) {
      if (response.destroyed) return;
      const next = await designs.archive(id);
      await add(next.name, next.bytes);
    }
    zip.end();
  } catch (error) {
    // What was begun cannot be taken back: a cut connection tells the browser that the file is none.
    response.destroy(error as Error);
  }
}
