import { createRaster, readStitchList, readSvg, type Artwork, type Raster, type Sewing } from '@open-kite/core';

/** Lets waiting messages in, a cancel among them; a message channel is not slowed down like a timer is. */
const turn = new MessageChannel();
const waiting: (() => void)[] = [];
turn.port1.onmessage = () => waiting.shift()?.();
export const nextTurn = (): Promise<void> =>
  new Promise((resolve) => {
    waiting.push(resolve);
    turn.port2.postMessage(0);
  });

/** Fetches a file of the server. @throws Error that says so where it is not there */
export async function fetchBytes(address: string): Promise<ArrayBuffer> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`the picture could not be fetched (${answer.status})`);
  return answer.arrayBuffer();
}

/** The exact pixels of a stored picture. */
export async function fetchPixels(hash: string): Promise<Raster> {
  const buffer = await fetchBytes(`/api/pictures/${hash}/pixels`);
  const [width, height] = new Uint32Array(buffer, 0, 2);
  return createRaster(width, height, new Uint8ClampedArray(buffer, 8));
}

/** The shapes of a stored picture, where it is vector artwork. */
export async function fetchArtwork(hash: string): Promise<Artwork> {
  return readSvg(new TextDecoder().decode(await fetchBytes(`/api/pictures/${hash}/source`)));
}

/** The stitch list of a stored picture, where it is one. */
export async function fetchList(hash: string): Promise<Sewing> {
  return readStitchList(new TextDecoder().decode(await fetchBytes(`/api/pictures/${hash}/source`)));
}
