import { type Bench } from './benchState';
import { type EditOwner, setKindOfEdit } from './edits/list';
import { matchSides, type NamedReference } from './matchSides';
import { NOT_MATCHED } from './matchTo';

/**
 * Takes the tint along tone from a reference, and makes it an edit.
 * @param id of a new edit
 * @param none what is said where the two have no tones in common
 */
export async function tintFrom(
  bench: Bench,
  at: EditOwner,
  { reference, name }: NamedReference,
  id: string,
  none: string,
): Promise<void> {
  const sides = matchSides(bench, at, 'tint', reference);
  if (!sides) return bench.actions.report(NOT_MATCHED);
  const points = await bench.actions.during('Measuring the tint', (signal) =>
    bench.pool.run((tasks) => tasks.fitTint(sides.target, sides.reference, sides.laidOver), { signal }),
  );
  if (points?.length === 0) return bench.actions.report(none);
  if (points) bench.actions.edit(`Tint of ${name}`, setKindOfEdit(at, 'tint', { points }, id));
}
