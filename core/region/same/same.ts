import { boolean } from 'yup';
import { operator } from '../../graph/operator';
import { coveringAt, cutPlane } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { factOf, lightOf } from '../../graph/wanted';
import { type TakenColour } from '../../mask/inside/coloursAlong';
import { COLOUR_REACH, localColour } from '../../mask/inside/localColour';
import { colourDistance, materialDistance } from '../../mask/inside/startColour';
import { between, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { smoothStep } from '../smoothRange';
import { addSpot } from '../strokes/strokeColours';

/** What looks like a place that was pressed on the picture. */
export interface SameSettings {
  /** the place, fractions of the long edge; negative while none was pressed */
  readonly x: number;
  readonly y: number;
  /** diameter of what is looked at there, fraction of the long edge */
  readonly size: number;
  /** how far a colour may be off, in spreads of the colours there */
  readonly within: number;
  /** whether it may be lighter or darker: the same thing in other light */
  readonly anyLight: boolean;
}

type Alike = Pick<SameSettings, 'within' | 'anyLight'>;

/** part of the distance over which it fades out, beyond what is alike */
const FADE = 0.5;

/** @returns how alike a distance is, 0…1 */
const alike = (distance: number, within: number): number =>
  smoothStep((within * (1 + FADE) - distance) / (within * FADE));

const around = (at: At): At => coveringAt(at, at.level, COLOUR_REACH);

/** Where the picture is as it is at a place. Inputs: the picture, the colour there. */
const sameAsThere = operator<Alike>({
  kind: 'sameAsThere',
  version: 1,
  gives: 'mask',
  works: 'linear',
  needs: (_, at, input) =>
    input === 0 ? around(at) : { level: 0, kernel: at.kernel, area: { x: 0, y: 0, width: 1, height: 1 } },
  run: ([picture, there], { within, anyLight }, at) => {
    const { area } = around(at);
    const { L, a, b } = localColour(lightOf(picture, 'a likeness').planes, area.width, area.height);
    const [{ colour }] = factOf(there, 'a likeness').value as readonly TakenColour[];
    const distance = anyLight ? materialDistance : colourDistance;
    const plane = L.map((l, i) => alike(distance(colour, l, a[i], b[i]), within));
    return { is: 'mask', plane: cutPlane(plane, area, at.area) };
  },
});

/** Whether a place was pressed. */
export const isPressed = ({ x, y }: SameSettings): boolean => x >= 0 && y >= 0;

export const same: PartKind<SameSettings> = {
  kind: 'same',
  schema: strict({
    x: between(-1, 1),
    y: between(-1, 1),
    size: between(0, 0.2),
    within: between(0.1, 50),
    anyLight: boolean().strict(true).required(),
  }),
  plain: { x: -1, y: -1, size: 0.012, within: 4, anyLight: false },
  says: (settings) =>
    isPressed(settings)
      ? `it is as at the mark${settings.anyLight ? ', in any light' : ''}`
      : 'it is as at a place still to be pressed',
  operators: [sameAsThere],
  compile: (graph, settings, { picture, longEdge }) => {
    if (!picture || !isPressed(settings)) return undefined;
    const { within, anyLight } = settings;
    return graph.add('sameAsThere', { within, anyLight }, [
      picture,
      addSpot(graph, settings, longEdge, picture),
    ]);
  },
};
