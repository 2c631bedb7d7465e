import { type SetKind } from '../capture/setKind';
import { type Edit } from '../edits/edit';
import { type EditFrames, type EditPlace } from '../edits/editKind';
import { changes, isLate, kindOf, ranked } from '../edits/ranked';
import { type Layer, type PictureLayer } from '../layers/layer';
import { standingOf } from '../ground/standingOf';
import { type Standing } from '../ground/standing';
import { firstPlace, placeMatrix } from '../layers/place';
import { IDENTITY, type Matrix3, multiply } from '../raster/matrix3';
import { repairPlace } from '../edits/repair/repairPlace';
import { straightenOf } from '../recipe/cropOf';
import { type PictureGrid, pictureGrid, setGrid } from '../recipe/pictureGrid';
import { baseScope, drawnSizeOf, fitOf, setScope } from '../recipe/setFrames';
import { type Project, type SetScope } from '../recipe/project';
import { type SetGraph, setGraph } from '../recipe/setGraph';
import { compileRegion } from '../region/compileRegion';
import { type PartFrame, type PartPlace, type PartSource } from '../region/partKind';
import { type Region } from '../region/region';
import { regionBounds } from '../region/regionBounds';
import { pointsAt, type ThingSettings } from '../region/thing/thingSettings';
import {
  type EditNodes,
  type LayerNodes,
  type SpineStep,
  type CutNodes,
  type InflateNodes,
  type RepairNodes,
  type FillNodes,
  type LaidPicture,
  type CompiledPicture,
  type CompileOptions,
} from './compiledPicture';
import { buildGraph, type GraphBuilder } from './graph';
import { versionOf } from './operators';

/** A grid that layers and edits lie on, and what is known of the picture there. */
interface Ground {
  readonly grid: PictureGrid;
  readonly part: PartPlace;
  readonly edit: EditPlace;
}

/** The picture with all layers but the topmost in the making, to be laid under each state of that one. */
type Lay = (picture: string) => string;

/**
 * Compiles a recipe to the graph of its picture: the only place that knows the order of anything. What has not been measured yet leaves out
 * what depends on it; {@link missing} says what to measure.
 * @returns undefined while there is nothing to see
 */
export function compile(project: Project, options: CompileOptions = {}): CompiledPicture | undefined {
  const grid = pictureGrid(project);
  const scope = baseScope(project);
  return grid && scope ? new Compiler(project, scope, grid, options).picture() : undefined;
}

/** Kinds of sets whose frames show one view at one sharpness: what differs between them has moved. */
export const MOVING_KINDS: ReadonlySet<SetKind> = new Set(['bracket', 'moments', 'swap', 'stack']);

/** stops by which frames that were exposed alike differ at most */
const ALIKE = 0.4;
/** frames that are compared with each other, at most */
const MOST_FRAMES = 8;

class Compiler {
  private readonly g: GraphBuilder = buildGraph(versionOf);
  private readonly sets = new Map<string, SetGraph>();
  private readonly layers: LayerNodes[] = [];
  private readonly edits = new Map<string, EditNodes>();
  private readonly regions = new Map<string, string>();
  private readonly spine: SpineStep[] = [];
  private readonly cuts = new Map<string, CutNodes>();
  private readonly inflated = new Map<string, InflateNodes>();
  private readonly repairs = new Map<string, RepairNodes>();
  private readonly fills = new Map<string, FillNodes>();
  private readonly laid = new Map<string, LaidPicture>();
  private readonly ground: Ground;

  constructor(
    private readonly project: Project,
    private readonly scope: SetScope,
    private readonly grid: PictureGrid,
    private readonly options: CompileOptions,
  ) {
    for (const set of project.sets) {
      const own = setScope(project, set.id);
      if (own) this.sets.set(set.id, this.withNodes(setGraph(own)));
    }
    this.ground = this.groundOf(scope, grid);
  }

  picture(): CompiledPicture {
    const { project, grid, g } = this;
    const { base } = { base: this.ground.part.picture ?? '' };
    const stacked = this.stack(project.layers, (laid) => laid);
    const layered = this.options.alone === undefined ? stacked : this.aloneOf(this.options.alone);
    const all = ranked(project.edits);
    const ground: Ground = { ...this.ground, grid };
    const result = this.changed(
      layered || this.nothing(),
      all.filter((e) => !isLate(e)),
      ground,
      'whole',
      (p) => p,
    );
    const straighten = straightenOf(project);
    const isStraight = straighten.every((v, i) => v === IDENTITY[i]);
    const bent = (hash: string): string =>
      isStraight
        ? hash
        : g.add('bendGrid', { matrix: straighten, width: grid.width, height: grid.height }, [hash]);
    const straight = bent(result);
    if (!isStraight) this.step({ of: 'straighten', id: 'straighten', node: straight, late: true });
    const finished = this.changed(straight, all.filter(isLate), ground, 'whole', (p) => p, bent);
    return {
      graph: g.graph,
      ...{ width: grid.width, height: grid.height, straighten, result, finished, base },
      ...{
        layers: this.layers,
        edits: this.edits,
        regions: this.regions,
        sets: this.sets,
        spine: this.spine,
        cuts: [...this.cuts.values()],
        inflated: [...this.inflated.values()],
        fills: [...this.fills.values()],
        repairs: this.repairs,
        laid: this.laid,
      },
    };
  }

  private aloneOf(id: string): string {
    const layer = this.layers.find((l) => l.id === id);
    if (!layer) return '';
    const { picture, mask } = layer;
    const settings = { mode: 'normal', opacity: 1, linear: false };
    return mask ? this.g.add('blendLayers', settings, ['', picture, mask]) : picture;
  }

  private has(hash: string): boolean {
    return this.options.has?.(hash, this.g.graph) ?? true;
  }

  private nothing(): string {
    return this.g.add('fillColour', { colour: [0, 0, 0] });
  }

  private step(step: SpineStep): void {
    if (this.options.spine) this.spine.push(step);
  }

  /** Takes the nodes of a set over; what stands in for its merge stands in for it everywhere. */
  private withNodes(nodes: SetGraph): SetGraph {
    for (const { kind, settings, inputs } of nodes.graph.values()) this.g.add(kind, settings, inputs);
    return nodes;
  }

  private mergeOf(scope: SetScope): { merge: string; noise: string; toneBase?: string; distance?: string } {
    const nodes = setGraph(scope);
    const name = this.options.standIns?.[scope.set.id];
    if (name === undefined) return nodes;
    const merge = this.g.add('standIn', { name });
    return {
      merge,
      noise: this.g.add('noiseOf', {}, [merge]),
      ...(nodes.toneBase ? { toneBase: this.g.add('toneBaseOf', {}, [merge]) } : {}),
      ...(nodes.distance ? { distance: this.g.add('distanceOf', {}, [merge]) } : {}),
    };
  }

  /** A set's picture as it is before its edits but the tone map, and what is known of it. */
  private groundOf(scope: SetScope, grid: PictureGrid): Ground {
    const { merge, noise, toneBase, distance } = this.mergeOf(scope);
    const sampled = this.g.add('samplePicture', { matrix: IDENTITY }, [merge]);
    const edit: EditPlace = {
      ...(this.has(noise) ? { noise } : {}),
      ...(toneBase && this.has(toneBase) ? { toneBase } : {}),
      frames: this.framesOf(scope),
    };
    const toned = scope.set.edits.find((e) => e.kind === 'toneMap' && changes(e));
    const picture = (toned && this.wholly(sampled, toned, edit)) ?? sampled;
    return {
      grid,
      edit,
      part: {
        longEdge: Math.max(grid.width, grid.height),
        picture,
        source: this.sourceOf(merge, IDENTITY),
        ...(distance && this.has(distance) ? { distance } : {}),
        ...(MOVING_KINDS.has(scope.set.kind) ? { frames: () => this.partFrames(scope) } : {}),
        named: () => undefined,
      },
    };
  }

  /** The frames of a set on its grid. */
  private framesOf(scope: SetScope): EditFrames {
    const { drawn } = setGraph(scope);
    // out of focus is not something else
    const ids = MOVING_KINDS.has(scope.set.kind) ? [...drawn.keys()] : [];
    const stopsOf = (id: string): number => scope.frames.find((f) => f.id === id)?.stops ?? 0;
    const reference = stopsOf(scope.set.reference);
    return {
      ids,
      alike: ids.filter((id) => Math.abs(stopsOf(id) - reference) < ALIKE),
      lightOf: (id) => {
        const frame = drawn.get(id);
        // a panorama's frames lie on no grid by themselves
        const fit = scope.set.kind === 'panorama' ? undefined : fitOf(scope, { id });
        if (frame === undefined || !fit?.fitted || !this.has(frame)) return undefined;
        return this.g.add('samplePicture', { matrix: fit.matrix }, [frame]);
      },
    };
  }

  /** Fitted frames of a set with their exposures, the reference first, some of many. */
  private partFrames(scope: SetScope): PartFrame[] {
    const { lightOf } = this.framesOf(scope);
    const used = scope.frames.filter((f) => f.used);
    const first = used.filter((f) => f.id === scope.set.reference);
    const others = used.filter((f) => f.id !== scope.set.reference);
    const step = Math.max(1, Math.ceil(others.length / (MOST_FRAMES - 1)));
    const some = [...first, ...others.filter((_, i) => i % step === 0)].flatMap(({ id, stops }) => {
      const light = lightOf(id);
      return light === undefined ? [] : [{ light, stops }];
    });
    return first.length > 0 ? some : [];
  }

  /** What an edit makes of light when it is taken over whole, everywhere. */
  private wholly(input: string, edit: Edit, place: EditPlace): string | undefined {
    return kindOf(edit).compile(this.g, input, edit.settings, place)?.changed;
  }

  /** Layers laid over each other, farthest first; empty text where none is shown. @param within lays a state of the stack into the whole */
  private stack(layers: readonly Layer[], within: Lay): string {
    let current = '';
    for (const layer of layers) {
      if (!layer.shown || layer.opacity <= 0) continue;
      const beneath = this.shaded(layer, current);
      const own = layer.kind === 'picture' ? this.shownBy(layer) : undefined;
      if (own) this.laid.set(layer.id, own);
      const mask = this.whereOf(layer.where, {
        ...this.ground.part,
        ...(own ? { source: this.sourceOf(own.picture, own.matrix), ...this.ownLight(layer, own) } : {}),
      });
      const isWhole = beneath === '' && !mask && layer.opacity === 1 && layer.kind !== 'group';
      const lay: Lay = (picture) =>
        isWhole
          ? picture
          : this.g.add(
              'blendLayers',
              { mode: layer.blend, opacity: layer.opacity, linear: layer.linear },
              mask ? [beneath, picture, mask] : [beneath, picture],
            );
      const made = this.layerPicture(layer, beneath, (picture) => within(lay(picture)));
      if (!made) continue;
      current = lay(made.picture);
      const settings = { mode: layer.blend, opacity: layer.opacity, linear: layer.linear };
      this.layers.push({
        id: layer.id,
        ...made,
        beneath,
        laid: current,
        painted: this.isPainted(layer.where),
        ...(mask ? { mask } : {}),
        ...(mask && beneath !== ''
          ? { everywhere: this.g.add('blendLayers', settings, [beneath, made.picture]) }
          : {}),
      });
    }
    return current;
  }

  /** A layer's pixels, before and after its edits; undefined while they cannot be made. */
  private layerPicture(
    layer: Layer,
    beneath: string,
    lay: Lay,
  ): { plain: string; picture: string } | undefined {
    const source = this.layerSource(layer, beneath, lay);
    if (!source) return undefined;
    const { plain, ground, ofSet } = source;
    if (!ofSet) this.step({ of: 'layer', id: layer.id, node: lay(plain), late: false });
    return { plain, picture: this.changed(plain, ranked(layer.edits), ground, layer.id, lay) };
  }

  private layerSource(
    layer: Layer,
    beneath: string,
    lay: Lay,
  ): { plain: string; ground: Ground; ofSet?: boolean } | undefined {
    const { g, ground } = this;
    switch (layer.kind) {
      case 'fill': {
        const { fill } = layer;
        const plain =
          fill.kind === 'colour'
            ? g.add('fillColour', { colour: fill.colour })
            : g.add('fillGradient', { ...fill, longEdge: ground.part.longEdge });
        return { plain, ground: { ...ground, edit: {} } };
      }
      case 'beneath':
        return beneath === '' ? undefined : { plain: beneath, ground };
      case 'group': {
        const plain = this.stack(layer.layers, lay);
        return plain === '' ? undefined : { plain, ground };
      }
      case 'picture':
        return this.sourcePicture(layer, lay);
    }
  }

  /** The set that a layer's pixels come from, with its grid. */
  private setOf(
    source: PictureLayer['source'],
  ): { readonly scope: SetScope; readonly own: PictureGrid } | undefined {
    const { sets } = this.project;
    const set =
      source.kind === 'set'
        ? sets.find((s) => s.id === source.set)
        : sets.find((s) => s.frames.includes(source.frame));
    const scope = set && setScope(this.project, set.id);
    const own = scope && setGrid(scope);
    return scope && own && { scope, own };
  }

  /** The picture that a layer shows, made beforehand, and how it lies; undefined where it is not there or lies nowhere. */
  private shownBy({ source, place }: PictureLayer): (LaidPicture & { readonly picture: string }) | undefined {
    const { project, g, grid } = this;
    if (source.kind === 'plate') {
      const frame = project.frames.find((f) => f.id === source.frame);
      if (!frame) return undefined;
      const { width, height, hash } = frame;
      const matrix = placeMatrix(place ?? firstPlace(frame, grid, 0), frame, grid);
      return { picture: g.add('frame', { hash }), matrix, width, height };
    }
    const from = this.setOf(source);
    if (!from) return undefined;
    const { scope, own } = from;
    const bent =
      scope.set.id === this.scope.set.id && !place
        ? IDENTITY
        : placeMatrix(place ?? firstPlace(own, grid, 0), own, grid);
    if (source.kind === 'set') return { picture: this.mergeOf(scope).merge, matrix: bent, ...own };
    // a panorama's canvas is a grid of its own: its frames lie nowhere by themselves
    const fit = scope.set.kind === 'panorama' ? undefined : fitOf(scope, { id: source.frame });
    const picture = setGraph(scope).drawn.get(source.frame);
    const frame = scope.frames.find((f) => f.id === source.frame);
    if (!fit?.fitted || picture === undefined || !frame) return undefined;
    return {
      ...{ picture, matrix: multiply(fit.matrix, bent) },
      ...drawnSizeOf(scope, frame),
    };
  }

  /** A picture that things can be cut out of. While a cut is being made the one before stands for it. */
  private sourceOf(picture: string, matrix: Matrix3): PartSource {
    const nodes = (dabs: ThingSettings['dabs']): Pick<CutNodes, 'exact' | 'rough'> => ({
      exact: this.g.add('cutOut', { dabs }, [picture]),
      rough: this.g.add('roughCut', { dabs }, [picture]),
    });
    return {
      matrix,
      cut: (settings) => {
        if (!pointsAt(settings)) return undefined;
        const { dabs } = settings;
        const wanted = nodes(dabs);
        this.cuts.set(wanted.exact, { ...wanted, picture, settings });
        for (let count = dabs.length; count > 0; count--) {
          const { exact, rough } = nodes(dabs.slice(0, count));
          if (this.has(exact)) return exact;
          if (this.has(rough)) return rough;
        }
        return undefined;
      },
    };
  }

  /** The light of a layer's own picture, where that is another than the base. */
  private ownLight(
    layer: Layer,
    { picture, matrix }: LaidPicture & { readonly picture: string },
  ): { own?: string } {
    const isBase =
      layer.kind === 'picture' && layer.source.kind === 'set' && layer.source.set === this.scope.set.id;
    return isBase || !this.has(picture) ? {} : { own: this.g.add('samplePicture', { matrix }, [picture]) };
  }

  /** The picture of a layer with the colours of the thing that is all it shows, free of their old background. */
  private freed({ where }: PictureLayer, picture: string, matrix: Matrix3): string {
    const shown = this.regionOf(where);
    const part = shown?.invert
      ? undefined
      : shown?.parts.find((p) => p.on && !p.turned && p.how !== 'remove' && p.part.kind === 'thing')?.part;
    const cut = part?.kind === 'thing' ? this.sourceOf(picture, matrix).cut(part.settings) : undefined;
    return cut === undefined
      ? this.g.add('samplePicture', { matrix }, [picture])
      : this.g.add('samplePicture', { matrix, opaque: true }, [cut]);
  }

  /** How a plate stands on the ground, with what is made of it beforehand; undefined where it does not, or not yet. */
  private standOf(
    layer: Layer,
  ): { readonly settings: Standing; readonly inputs: [string, string] } | undefined {
    const { space } = this.project;
    if (layer.kind !== 'picture' || !layer.stand || !space) return undefined;
    const shown = this.shownBy(layer);
    if (!shown) return undefined;
    const { picture, matrix } = shown;
    const field = this.g.add('inflate', {}, [picture]);
    this.inflated.set(field, { picture, field });
    if (!this.has(picture) || !this.has(field)) return undefined;
    const settings = standingOf(space, layer.stand, matrix, shown, this.grid);
    // what is half there casts half a shadow
    return { settings: { ...settings, shadow: settings.shadow * layer.opacity }, inputs: [picture, field] };
  }

  /** A plate in the picture's light and air. */
  private stood(layer: Layer): string | undefined {
    const stand = this.standOf(layer);
    return stand && this.g.add('standThing', stand.settings, stand.inputs);
  }

  /** What lies beneath a plate that stands on it: in its shadow, or with its mirror image. */
  private shaded(layer: Layer, beneath: string): string {
    const stand = beneath === '' ? undefined : this.standOf(layer);
    if (!stand) return beneath;
    const [picture, field] = stand.inputs;
    return stand.settings.water
      ? this.g.add('reflectThing', stand.settings, [beneath, picture, field])
      : this.g.add('shadeGround', stand.settings, [beneath, picture]);
  }

  private sourcePicture(
    layer: PictureLayer,
    lay: Lay,
  ): { plain: string; ground: Ground; ofSet?: boolean } | undefined {
    const { g, grid } = this;
    const { source, place } = layer;
    const shown = this.shownBy(layer);
    if (!shown) return undefined;
    if (source.kind === 'plate') {
      const { picture, matrix } = shown;
      if (!this.has(picture)) return undefined;
      const plain = this.stood(layer) ?? this.freed(layer, picture, matrix);
      return { plain, ground: this.onOwn(plain, this.noiseOf(picture), this.sourceOf(picture, matrix)) };
    }
    const from = this.setOf(source);
    if (!from) return undefined;
    const { scope, own } = from;
    const isBase = scope.set.id === this.scope.set.id;
    const setGround = isBase ? this.ground : this.groundOf(scope, own);
    // a set that is laid into another lies there as a picture does
    const bent: Lay =
      isBase && !place
        ? (hash) => hash
        : (hash) =>
            g.add(
              'bendGrid',
              {
                matrix: placeMatrix(place ?? firstPlace(own, grid, 0), own, grid),
                width: own.width,
                height: own.height,
              },
              [hash],
            );
    if (source.kind === 'set') {
      const { merge } = this.mergeOf(scope);
      if (!this.has(merge)) return undefined;
      const sampled = g.add('samplePicture', { matrix: IDENTITY }, [merge]);
      this.step({
        of: 'merge',
        id: scope.set.id,
        node: lay(bent(this.toned(setGround, sampled))),
        late: false,
      });
      const edited = this.changed(sampled, ranked(scope.set.edits), setGround, scope.set.id, (p) =>
        lay(bent(p)),
      );
      const ground =
        isBase && !place
          ? setGround
          : this.onOwn(
              bent(setGround.part.picture ?? sampled),
              // its frames lie on its own grid
              { ...setGround.edit, frames: undefined },
              this.sourceOf(merge, shown.matrix),
            );
      return { plain: bent(edited), ground: { ...ground, grid }, ofSet: true };
    }
    const frame = shown.picture;
    const fit = fitOf(scope, { id: source.frame });
    if (!fit || !this.has(frame)) return undefined;
    const sampled = this.freed(layer, frame, fit.matrix);
    const noise = this.noiseOf(frame);
    const frameGround: Ground = {
      ...setGround,
      edit: { ...noise, frames: setGround.edit.frames },
      part: { ...setGround.part, picture: sampled, source: this.sourceOf(frame, fit.matrix) },
    };
    const edited = this.changed(
      sampled,
      ranked(scope.set.edits),
      frameGround,
      `${scope.set.id} ${layer.id}`,
      (p) => lay(bent(p)),
    );
    return {
      plain: bent(edited),
      ground: this.onOwn(bent(sampled), noise, this.sourceOf(frame, shown.matrix)),
    };
  }

  /** What is known of the noise of a picture by itself. */
  private noiseOf(picture: string): EditPlace {
    const noise = this.g.add('noiseOf', {}, [picture]);
    return this.has(noise) ? { noise } : {};
  }

  /** A radiance map as it is shown before the edits of its set. */
  private toned(ground: Ground, sampled: string): string {
    return ground.part.picture ?? sampled;
  }

  /** The picture's ground, with ranges read from a picture that lies on it. */
  private onOwn(picture: string, edit: EditPlace, source: PartSource): Ground {
    return { grid: this.grid, edit, part: { ...this.ground.part, picture, source } };
  }

  /**
   * Edits done one after the other.
   * @param lay lays a state into the whole, for the trace
   * @param bent brings a region onto the straightened grid
   */
  private changed(
    input: string,
    edits: readonly Edit[],
    ground: Ground,
    at: string,
    lay: Lay,
    bent?: Lay,
  ): string {
    let current = input;
    for (const edit of edits) {
      if (edit.kind === 'repair') this.noteRepair(edit, current, ground);
      if (!changes(edit)) continue;
      const where = this.whereOf(edit.where, ground.part);
      const done = kindOf(edit).compile(this.g, current, edit.settings, this.placeOf(edit, ground, where));
      if (!done) continue;
      const mask = where && bent ? bent(where) : where;
      const amount = edit.amount * (done.share ?? 1);
      const after =
        amount === 1 && !mask
          ? done.changed
          : this.g.add('mix', { amount }, mask ? [current, done.changed, mask] : [current, done.changed]);
      // an edit of a set is done to its frames as well, when they are layers; it is known by what it does to the set
      if (!this.edits.has(edit.id))
        this.edits.set(edit.id, {
          before: current,
          after,
          late: bent !== undefined,
          ...(mask ? { mask } : {}),
        });
      current = after;
      this.step({ of: 'edit', id: edit.id, at, node: lay(current), late: bent !== undefined });
    }
    return current;
  }

  /** Notes what a repair finds: what to put there is measured before there is anything to see. */
  private noteRepair(edit: Edit, picture: string, ground: Ground): void {
    const { where, frames } = this.placeOf(edit, ground, this.whereOf(edit.where, ground.part));
    if (!where || this.repairs.has(edit.id)) return;
    const lights = (frames?.ids ?? []).flatMap((id): [string, string][] => {
      const light = frames?.lightOf(id);
      return light === undefined ? [] : [[id, light]];
    });
    const { mask, place } = where;
    const agreement = this.g.add('agreeFrames', place, [picture, mask, ...lights.map(([, light]) => light)]);
    this.repairs.set(edit.id, { picture, ...where, frames: new Map(lights), agreement });
  }

  /** What an edit finds at a place, with what is known of its own region. */
  private placeOf({ where }: Edit, ground: Ground, mask: string | undefined): EditPlace {
    const region = this.regionOf(where);
    const { longEdge, picture } = ground.part;
    const everywhere: EditPlace = { ...ground.edit, longEdge };
    if (mask === undefined || !region) return everywhere;
    const named = (id: string): Region | undefined => this.project.regions.find((r) => r.id === id);
    const place = repairPlace(regionBounds(region, longEdge, named), ground.grid);
    if (!place) return everywhere;
    return {
      ...everywhere,
      where: { mask, place },
      offsets: ({ seed, within }) => {
        if (picture === undefined) return undefined;
        const taken = within === '' ? undefined : this.whereOf(within, ground.part);
        const inputs = taken === undefined ? [picture, mask] : [picture, mask, taken];
        const fact = this.g.add('fillFrom', { place, seed }, inputs);
        const nodes = { fact, picture, mask, place, seed };
        this.fills.set(fact, taken === undefined ? nodes : { ...nodes, within: taken });
        return this.has(fact) ? fact : undefined;
      },
    };
  }

  private regionOf(where: Region | string | undefined): Region | undefined {
    return typeof where === 'string' ? this.project.regions.find((r) => r.id === where) : where;
  }

  private isPainted(where: Region | string | undefined): boolean {
    return this.regionOf(where)?.parts.some(({ part, on }) => on && part.kind === 'strokes') ?? false;
  }

  /** @returns hash of where something is; undefined for everywhere */
  private whereOf(where: Region | string | undefined, part: PartPlace): string | undefined {
    const region = this.regionOf(where);
    return region && this.mask(region, part, new Set());
  }

  private mask(region: Region, part: PartPlace, within: ReadonlySet<string>): string | undefined {
    const deeper = new Set([...within, region.id]);
    const hash = compileRegion(this.g, region, {
      ...part,
      // a region that is made of itself is made of nothing
      named: (id) => {
        const other = this.project.regions.find((r) => r.id === id);
        return other && !deeper.has(id) ? this.mask(other, part, deeper) : undefined;
      },
    });
    if (hash !== undefined) this.regions.set(region.id, hash);
    return hash;
  }
}
