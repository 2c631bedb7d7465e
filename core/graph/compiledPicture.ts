import { type RepairPlace } from '../edits/repair/repairPlace';
import { type Matrix3 } from '../raster/matrix3';
import { type PictureGrid } from '../recipe/pictureGrid';
import { type SetGraph } from '../recipe/setGraph';
import { type ThingSettings } from '../region/thing/thingSettings';
import { type Graph } from './graph';

/** An edit in a graph: what it finds and what it gives. */
export interface EditNodes {
  readonly before: string;
  readonly after: string;
  /** where it is made; absent where that is everywhere */
  readonly mask?: string;
  /** whether it lies on the straightened grid */
  readonly late: boolean;
}

/** A layer in a graph. */
export interface LayerNodes {
  readonly id: string;
  /** its pixels with all of its edits, where the picture has them */
  readonly picture: string;
  /** before its first edit */
  readonly plain: string;
  /** where it is shown; absent where that is everywhere */
  readonly mask?: string;
  /** what lies beneath it; empty text for nothing */
  readonly beneath: string;
  /** laid over that */
  readonly laid: string;
  /** laid over that as if it were shown everywhere; only where it is not, and something is beneath */
  readonly everywhere?: string;
  /** whether a brush says where it is shown */
  readonly painted: boolean;
}

/** One step that the trace names: the picture after it. */
export interface SpineStep {
  readonly of: 'merge' | 'layer' | 'edit' | 'straighten';
  /** id of the set, the layer or the edit */
  readonly id: string;
  /** where an edit is: a set's or a layer's id, or the whole */
  readonly at?: string;
  readonly node: string;
  /** whether it lies on the straightened grid */
  readonly late: boolean;
}

/** A thing that is cut out of a picture made beforehand. */
export interface CutNodes {
  readonly picture: string;
  readonly settings: ThingSettings;
  readonly exact: string;
  /** of the quick form that is shown until then */
  readonly rough: string;
}

/** A silhouette that is blown up beforehand, of a picture with opacity. */
export interface InflateNodes {
  readonly picture: string;
  readonly field: string;
}

/** What a repair finds where it is made, whether it is made or not. */
export interface RepairNodes {
  readonly picture: string;
  readonly mask: string;
  readonly place: RepairPlace;
  /** hashes of frames that may show what lies behind, by their ids; none for what is no set's own */
  readonly frames: ReadonlyMap<string, string>;
  /** fact: how well they do, see {@link FrameAgreement} */
  readonly agreement: string;
}

/** A gap that is to be filled from around it. */
export interface FillNodes {
  readonly fact: string;
  /** the picture that it is filled from, where the gap is, and where it may be taken from; absent where that is anywhere */
  readonly picture: string;
  readonly mask: string;
  readonly within?: string;
  readonly place: RepairPlace;
  readonly seed: number;
}

/** How the picture that a layer shows lies: pixel of the grid → its pixel. */
export interface LaidPicture extends PictureGrid {
  readonly matrix: Matrix3;
}

/** A recipe as a graph. */
export interface CompiledPicture extends PictureGrid {
  readonly graph: Graph;
  /** straightened pixel → picture pixel */
  readonly straighten: Matrix3;
  /** everything but what belongs after the picture is set straight; on the picture's own grid */
  readonly result: string;
  /** the finished picture, on the straightened grid */
  readonly finished: string;
  /** layers that are shown, those of groups before their group, farthest first */
  readonly layers: readonly LayerNodes[];
  /** edits that change something, by id */
  readonly edits: ReadonlyMap<string, EditNodes>;
  /** what each named region, and each region of its own, gives, by its id */
  readonly regions: ReadonlyMap<string, string>;
  readonly sets: ReadonlyMap<string, SetGraph>;
  /** what is cut out, whether it was made yet or not */
  readonly cuts: readonly CutNodes[];
  /** silhouettes that what stands on the ground is lit by, whether they were made yet or not */
  readonly inflated: readonly InflateNodes[];
  /** what repairs find, by the id of the edit; only those that have a region */
  readonly repairs: ReadonlyMap<string, RepairNodes>;
  /** gaps that are filled from around them, whether what they are copied from was found yet or not */
  readonly fills: readonly FillNodes[];
  /** how pictures lie, by the layers that show them */
  readonly laid: ReadonlyMap<string, LaidPicture>;
  /** what the base looks like before any edit but its tone map; where ranges are read unless something has a picture of its own */
  readonly base: string;
  /** the picture after one step after the other; only where it was asked for */
  readonly spine: readonly SpineStep[];
}

/** What a recipe is compiled with. */
export interface CompileOptions {
  /** names of what stands in for a merge that is not there yet, by the set's id */
  readonly standIns?: Readonly<Record<string, string>>;
  /** whether something made beforehand is at hand; what is not is left out. All of it is when left out */
  readonly has?: (hash: string, graph: Graph) => boolean;
  /** whether the steps of the trace are wanted */
  readonly spine?: boolean;
  /** id of an outermost layer that is wanted by itself, in full, with everything that is done to the whole: a layered file holds it so */
  readonly alone?: string;
}
