import { number, object, string, type Schema } from 'yup';

/** A picture the server keeps, under the hash of its content. */
export interface Picture {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly kind: 'raster' | 'svg' | 'list';
}

export const hashField = () =>
  string()
    .strict(true)
    .required('a picture needs a hash')
    .matches(/^[0-9a-f]{64}$/, 'a picture must be named by its hash');

const side = (name: string) => number().strict(true).required(`a picture has no ${name}`).integer().min(1);

export const pictureSchema = object({
  hash: hashField(),
  width: side('width'),
  height: side('height'),
  kind: string().strict(true).required().oneOf(['raster', 'svg', 'list']),
}) as unknown as Schema<Picture>;

/** Names of the pictures of a project, as its recipe has them, and their pictures. */
export const SOURCE = /^picture-[1-9][0-9]?$/;
