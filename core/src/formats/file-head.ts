import { number, object, string, ValidationError } from 'yup';

/** What a file of ours begins with: which format it is, and of which version. */
export interface FileHead {
  readonly format: string;
  readonly version: number;
}

/**
 * Makes the check of a file's head: asked before anything else of it, the format first.
 * @returns throws a yup ValidationError for another format, a missing version, or one that is not known
 */
export function headCheck({ format, version }: FileHead): (value: unknown) => void {
  const none = `"format" must be "${format}"`;
  const heads = [
    object({ format: string().strict(true).required(none).oneOf([format], none) })
      .typeError(none)
      .required(none),
    object({
      version: number()
        .strict(true)
        .required('its version is missing')
        .oneOf([version], `version ${'${value}'} is not known; this Open Kite reads version ${version}`),
    }),
  ];
  return (value) => {
    for (const head of heads) head.validateSync(value, { strict: true });
  };
}

/** Checks something by yup; what it finds is told of a kind of file. @throws RangeError */
export function asFile<T>(kind: string, check: () => T): T {
  try {
    return check();
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(`${kind}: ${error.message}`);
    throw error;
  }
}
