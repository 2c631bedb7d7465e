import { type Fact, type FieldMap, type LightTile, type MaskTile, type Picture, type Value } from './tile';

const wanted = <T extends Value['is']>(
  value: Value | undefined,
  is: T,
  by: string,
): Extract<Value, { is: T }> => {
  if (value?.is !== is) throw new Error(`“${by}” wants a ${is} and was given ${value?.is ?? 'nothing'}`);
  return value as Extract<Value, { is: T }>;
};

/** A value that must be light. @param by the step that wants it @throws Error where it is not */
export const lightOf = (value: Value | undefined, by: string): LightTile => wanted(value, 'light', by);

/** A value that must be a mask; see {@link lightOf}. */
export const maskOf = (value: Value | undefined, by: string): MaskTile => wanted(value, 'mask', by);

/** A value that must be a picture; see {@link lightOf}. */
export const pictureOf = (value: Value | undefined, by: string): Picture => wanted(value, 'picture', by);

/** A value that must be a field; see {@link lightOf}. */
export const fieldOf = (value: Value | undefined, by: string): FieldMap => wanted(value, 'field', by);

/** A value that must be a fact; see {@link lightOf}. */
export const factOf = (value: Value | undefined, by: string): Fact => wanted(value, 'fact', by);

/** Whether a value is a mask in which nothing lies. */
export function isNowhere(value: Value | undefined): boolean {
  if (value?.is !== 'mask') return false;
  const { plane } = value;
  for (let i = 0; i < plane.length; i++) if (plane[i] !== 0) return false;
  return true;
}
