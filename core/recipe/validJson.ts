import { type Schema, ValidationError } from 'yup';

/**
 * Reads JSON that a schema guards.
 * @param refuse is told the first thing that is wrong, and throws
 */
export function validJson<T>(text: string, schema: Schema<T>, refuse: (detail: string) => never): T {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return refuse('it is not JSON');
  }
  try {
    return schema.validateSync(value, { strict: true, abortEarly: true });
  } catch (thrown) {
    if (thrown instanceof ValidationError) return refuse(thrown.errors[0]);
    throw thrown;
  }
}
