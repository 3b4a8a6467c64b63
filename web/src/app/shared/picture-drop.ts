import { firstValueFrom } from 'rxjs';
import type { Picture, Project } from '@open-kite/contract';
import type { Api } from '../api/api';

/** Endings a picture may have, for the file dialog. */
export const PICTURE_TYPES = '.png,.jpg,.jpeg,.webp,.gif,.bmp,.tif,.tiff,.svg';

/** Endings of designs that are opened again. */
export const DESIGN_TYPES = '.kite,.csv,.json';

/** The first file of a drop or paste, if there is one. */
export function fileOf(data: DataTransfer | null): File | undefined {
  return data?.files[0];
}

/** A project's name from a file's: without its ending, dashes as spaces. */
export function nameFrom(file: string): string {
  const name = file
    .replace(/\.[^.]*$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return name === '' || name === 'image' ? 'New picture' : name[0].toUpperCase() + name.slice(1, 120);
}

/** How a ZIP begins, as project archives are. */
const ZIP = [0x50, 0x4b, 0x03, 0x04];

/**
 * Uploads a picture, a stitch list, a design or a project archive, and makes a project of it.
 * @param stored hears of a picture as soon as it is stored
 * @throws ApiError
 */
export async function projectFromFile(
  api: Api,
  file: File,
  stored: (picture: Picture) => void = () => undefined,
): Promise<Project> {
  const head = new Uint8Array(await file.slice(0, ZIP.length).arrayBuffer());
  if (ZIP.every((byte, i) => head[i] === byte)) return firstValueFrom(api.openArchive(file));
  const picture = await firstValueFrom(api.addPicture(file));
  stored(picture);
  return firstValueFrom(api.createProject(nameFrom(file.name), picture.hash));
}
