import { firstValueFrom } from 'rxjs';
import type { Project } from '@open-kite/contract';
import type { Api } from '../api/api';

/** Endings a picture may have, for the file dialog. */
export const PICTURE_TYPES = '.png,.jpg,.jpeg,.webp,.gif,.bmp,.tif,.tiff,.svg';

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

/** Uploads a picture and makes a project of it. @throws ApiError */
export async function projectFromPicture(api: Api, file: File): Promise<Project> {
  const picture = await firstValueFrom(api.addPicture(file));
  return firstValueFrom(api.createProject(nameFrom(file.name), picture.hash));
}
