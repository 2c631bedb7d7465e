import { type GraphBuilder } from '../../graph/graph';
import { operator } from '../../graph/operator';
import { type At, type Fact } from '../../graph/tile';
import { factOf, lightOf } from '../../graph/wanted';
import { coloursAlong, type TakenColour } from '../../mask/inside/coloursAlong';
import { COLOUR_REACH, localColour } from '../../mask/inside/localColour';
import { placesAlong } from '../../mask/inside/placesAlong';
import { type PackedStroke } from '../../mask/packStroke';
import { detailLevel } from '../detailLevel';

interface Colours {
  readonly longEdge: number;
  /** where they are taken, fractions of the long edge */
  readonly places: readonly (readonly [x: number, y: number])[];
  readonly span: number;
  /** of the brush, fraction of the long edge */
  readonly size: number;
}

/** places of one node: a stroke that grows takes anew only those at its end */
const CHUNK = 8;
/** part of the brush's radius that lies on the thing, and the most pixels of it that are looked at */
const [CORE, MOST_CORE] = [0.35, 12];

/** Pixel of a level at which a place lies. */
export const pixelAt = (place: number, longEdge: number, level: number): number => {
  const scale = 2 ** level;
  return (place * longEdge - 0.5 - (scale - 1) / 2) / scale;
};

/** pixels around a place that the brush is sure of */
function coreOf({ longEdge, size }: Colours): number {
  const radius = (size * longEdge) / 2 ** detailLevel(longEdge) / 2;
  return Math.min(MOST_CORE, Math.max(1, Math.round(CORE * radius)));
}

/** The square around a place, wherever the picture is looked at: what a stroke started on does not depend on it. */
function squareAt(settings: Colours, index: number): At {
  const { longEdge, places } = settings;
  const level = detailLevel(longEdge);
  const reach = coreOf(settings) + COLOUR_REACH;
  const [x, y] = places[index].map((v) => Math.round(pixelAt(v, longEdge, level)) - reach);
  return { level, kernel: 'bilinear', area: { x, y, width: 2 * reach + 1, height: 2 * reach + 1 } };
}

/** The colours under a stroke, those of the places before them among them. Inputs: these, and the picture once for each place. */
export const strokeColours = operator<Colours>({
  kind: 'strokeColours',
  version: 1,
  gives: 'fact',
  works: 'linear',
  needs: (settings, _, input) => squareAt(settings, Math.max(0, input - 1)),
  run: ([before, ...squares], settings) => {
    const half = coreOf(settings);
    const patches = squares.map((square, i) => {
      const [x, y] = settings.places[i];
      const side = 2 * (half + COLOUR_REACH) + 1;
      return { x, y, half, light: localColour(lightOf(square, 'a brush').planes, side, side) };
    });
    return { is: 'fact', value: coloursAlong(takenOf(before), patches, settings.span) } satisfies Fact;
  },
});

/** Colours that were taken before; none where nothing was. */
export const takenOf = (value: Parameters<typeof factOf>[0]): readonly TakenColour[] =>
  value === undefined ? [] : (factOf(value, 'a brush').value as readonly TakenColour[]);

/** @returns hash of the colour of one spot: a stroke that does not go on */
export const addSpot = (
  graph: GraphBuilder,
  { x, y, size }: { readonly x: number; readonly y: number; readonly size: number },
  longEdge: number,
  picture: string,
): string => graph.add('strokeColours', { longEdge, places: [[x, y]], span: 0, size }, ['', picture]);

/** @returns hash of the colours under a stroke */
export function addColours(
  graph: GraphBuilder,
  stroke: PackedStroke,
  longEdge: number,
  picture: string,
): string {
  const { places, span } = placesAlong(stroke);
  let colours = '';
  for (let from = 0; from < places.length; from += CHUNK) {
    const some = places.slice(from, from + CHUNK);
    colours = graph.add('strokeColours', { longEdge, places: some, span, size: stroke.size }, [
      colours,
      ...some.map(() => picture),
    ]);
  }
  return colours;
}
