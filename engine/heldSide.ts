import { type ReferenceSide, referenceSide, type SideOf } from '@/core/register/referenceSide';

/** Keeps the side of the reference that was last fitted to, by its name; without a name it is made for one fit. */
export function heldSide(): (name: string | undefined) => SideOf {
  let held: { readonly key: string; readonly side: ReferenceSide } | undefined;
  return (name) =>
    name === undefined
      ? referenceSide
      : (image, wish) => {
          const key = JSON.stringify([name, wish]);
          if (held?.key !== key) held = { key, side: referenceSide(image, wish) };
          return held.side;
        };
}
