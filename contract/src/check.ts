import { ValidationError, type Schema } from 'yup';

/** What came over the wire is not what was agreed; the message says what is wrong, in one line. */
export class ContractError extends Error {}

/**
 * Checks what came over the wire, without changing it.
 * @throws ContractError
 */
export function checked<T>(schema: Schema<T>, value: unknown): T {
  try {
    return schema.validateSync(value, { strict: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    throw new ContractError(error.message.replace(/\s+/g, ' ').slice(0, 300));
  }
}
