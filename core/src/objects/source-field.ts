import { string } from 'yup';

/** Which of the project's pictures or lists an object shows: `picture-1`, `picture-2` … */
export const sourceField = () =>
  string()
    .strict(true)
    .required()
    .matches(/^picture-[1-9][0-9]?$/, 'source must be a picture of the project like picture-1, got ${value}');
