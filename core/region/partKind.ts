import { type Schema } from 'yup';
import { type GraphBuilder } from '../graph/graph';
import { type Operator } from '../graph/operator';
import { type Matrix3 } from '../raster/matrix3';
import { type ThingSettings } from './thing/thingSettings';

/** The picture, made beforehand, that the light of a grid is read from. */
export interface PartSource {
  /** pixel of the grid → pixel of the picture */
  readonly matrix: Matrix3;
  /** hash of a thing cut out of it; undefined while nothing is pointed at, or nothing was cut yet */
  readonly cut: (settings: ThingSettings) => string | undefined;
}

/** A frame on a grid. */
export interface PartFrame {
  /** hash of its light */
  readonly light: string;
  /** its exposure, EV */
  readonly stops: number;
}

/** What a part of a region finds where it is used. */
export interface PartPlace {
  /** of the grid that the region lies on, full-size pixels */
  readonly longEdge: number;
  /** hash of the light that ranges are read from, on that grid */
  readonly picture?: string;
  /** hash of the light of the picture itself that the region says the place of, where it is another: a brush follows what it shows */
  readonly own?: string;
  /** hash of a map of distances, 0 near … 1 far, on that grid */
  readonly distance?: string;
  /** the frames of a set whose exposures are known, on that grid, the reference first; absent where there are none */
  readonly frames?: () => readonly PartFrame[];
  /** absent where there is no picture by itself */
  readonly source?: PartSource;
  /** hash of a named region's mask; undefined where there is none or where it would be made of itself */
  readonly named: (id: string) => string | undefined;
}

/**
 * A kind of part: everything there is to know about it but its controls.
 * @typeParam S its settings, plain data
 */
export interface PartKind<S extends object> {
  readonly kind: string;
  readonly schema: Schema;
  /** settings that it begins with */
  readonly plain: S;
  /** what it is, a few words that go on with “the sky by …” */
  readonly says: (settings: S) => string;
  readonly operators: readonly Operator[];
  /** @returns hash of its mask; undefined where there is nothing to make it from */
  readonly compile: (graph: GraphBuilder, settings: S, place: PartPlace) => string | undefined;
}
