import { type MatchSettings, type PlacedMark } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { type Bench } from './benchState';
import { editsAt, type EditOwner, setKindOfEdit } from './edits/list';
import { matchSides, type NamedReference } from './matchSides';

/** why something cannot be compared */
export const NOT_MATCHED =
  'This cannot be matched as it is: it must be merged and shown, and for what is about a layer something must lie beneath it. Then try again.';

/**
 * Solves the change that makes something look like a reference, and makes it an edit there.
 * @param id of a new edit
 * @param samePlace whether both are said to show one place in one light
 * @param marks what is known of places; those that the match has when left out
 * @param gesture joins what belongs to one step
 */
export async function matchTo(
  bench: Bench,
  at: EditOwner,
  { reference, name }: NamedReference,
  id: string,
  samePlace = false,
  marks?: readonly PlacedMark[],
  gesture?: string,
): Promise<void> {
  const state = bench.store.getState();
  const { project } = state.history;
  const known = findEdit(editsAt(project, at), 'match')?.settings;
  const told = marks ?? known?.marks ?? [];
  const sides = matchSides(bench, at, 'match', reference);
  if (!sides) return bench.actions.report(NOT_MATCHED);
  const relation = reference.kind === 'around' ? 'plate' : samePlace ? 'place' : 'other';
  const found = await bench.actions.during('Matching', (signal) =>
    bench.pool.run(
      (tasks) => tasks.fitMatch(sides.target, sides.reference, { laidOver: sides.laidOver, relation }, told),
      { signal },
    ),
  );
  // another mark that came meanwhile is solved by itself, later
  if (
    !found ||
    (marks &&
      findEdit(editsAt(bench.store.getState().history.project, at), 'match')?.settings.marks !== known?.marks)
  )
    return;
  const { map, halfway, report } = found;
  const settings: MatchSettings = {
    to: name,
    matrix: map.matrix,
    curves: map.curves.map((c) => [...c]),
    halfway,
    // how much is taken stays when only marks came to it
    ...(known && marks
      ? { tone: known.tone, contrast: known.contrast, colour: known.colour }
      : { tone: 1, contrast: 1, colour: 1 }),
    scores: {
      ...report.scores,
      ...{ paired: report.how === 'paired', why: report.why, cannot: report.cannot },
      ...(samePlace ? { samePlace } : {}),
    },
  };
  bench.actions.edit(`Matched to ${name}`, setKindOfEdit(at, 'match', settings, id), gesture);
}
