import { type MatchSettings, type PlacedMark } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { type Relation } from '@/core/match/solveMap';
import { type Bench } from './benchState';
import { editsAt, type EditOwner, setKindOfEdit } from './edits/list';
import { type MatchReference, matchSides, type NamedReference, type WeighedReference } from './matchSides';

/** why something cannot be compared */
export const NOT_MATCHED =
  'This cannot be matched as it is: it must be merged and shown, for what is about a layer something must lie beneath it, and a part of the picture must be in use. Then try again.';

/** What is said of a match beside what it is like. */
export interface MatchWishes {
  /** whether both are said to show one place in one light */
  readonly samePlace?: boolean;
  /** what is known of places; those that the match has when left out */
  readonly marks?: readonly PlacedMark[];
  /** joins what belongs to one step */
  readonly gesture?: string;
}

/**
 * Solves the change that makes something look like a reference, or several weighed, and makes it an edit there.
 * @param id of a new edit
 */
export async function matchTo(
  bench: Bench,
  at: EditOwner,
  like: NamedReference | readonly WeighedReference[],
  id: string,
  { samePlace = false, marks, gesture }: MatchWishes = {},
): Promise<void> {
  const { project } = bench.store.getState().history;
  const known = findEdit(editsAt(project, at), 'match')?.settings;
  const told = marks ?? known?.marks ?? [];
  const references = 'reference' in like ? [{ ...like, weight: 1 }] : like;
  const sides = references.map(({ reference }) => matchSides(bench, at, 'match', reference));
  const pictures = sides.flatMap((side, i) => {
    if (!side) return [];
    const { reference, weight } = references[i];
    const relation = relationOf(reference, samePlace);
    return [{ picture: side.reference, weight, knowledge: { laidOver: side.laidOver, relation } }];
  });
  const target = sides.at(0)?.target;
  if (!target || pictures.length < references.length) return bench.actions.report(NOT_MATCHED);
  const found = await bench.actions.during('Matching', (signal) =>
    bench.pool.run((tasks) => tasks.fitMatch(target, pictures, told), { signal }),
  );
  // another mark that came meanwhile is solved by itself, later
  if (
    !found ||
    (marks &&
      findEdit(editsAt(bench.store.getState().history.project, at), 'match')?.settings.marks !== known?.marks)
  )
    return;
  const { map, halfway, report } = found;
  const several = references.length > 1;
  const settings: MatchSettings = {
    to: references.map(({ name }) => name).join(', '),
    weighed: several ? references.map(({ name, weight }) => ({ to: name, weight })) : undefined,
    matrix: map.matrix,
    curves: map.curves.map((c) => [...c]),
    halfway,
    // how much is taken stays where only marks came to it, or others are weighed
    ...(known && (marks !== undefined || several || known.weighed)
      ? { tone: known.tone, contrast: known.contrast, colour: known.colour }
      : { tone: 1, contrast: 1, colour: 1 }),
    scores: {
      ...report.scores,
      ...{ paired: report.how === 'paired', cannot: report.cannot },
      why: several ? `${WEIGHED} ${report.why}` : report.why,
      ...(samePlace ? { samePlace } : {}),
    },
  };
  bench.actions.edit(`Matched to ${settings.to}`, setKindOfEdit(at, 'match', settings, id), gesture);
}

/** How two pictures that show different things stand to each other. */
function relationOf({ kind }: MatchReference, samePlace: boolean): Relation {
  // what is in the picture is in its light
  if (kind !== 'frame') return 'plate';
  return samePlace ? 'place' : 'other';
}

const WEIGHED = 'A change was solved to each by itself, and one fitted to their weighed mean.';
