import { transfer } from 'comlink';
import { noiseSigma } from '@/core/capture/noise';
import { measureSet, type SetMeasures } from '@/core/capture/setMeasures';
import { sharpnessOf } from '@/core/capture/sharpness';
import { edgeFindings, type LevelledFrame } from '@/core/merge/edgeFindings';
import { baseOf, fillRadiance, toneMapBand } from '@/core/merge/radiance/mergeRadiance';
import { recoverResponse, type Response, responseOff, srgbResponse } from '@/core/merge/radiance/response';
import { type FramePatches, framePatches, sampleResponse } from '@/core/merge/radiance/sampleResponse';
import { apartOf } from '@/core/register/parallax/apartOf';
import { bendFrame } from '@/core/register/parallax/bendFrame';
import { type LocalBend } from '@/core/register/parallax/localBend';
import { measureBend } from '@/core/register/parallax/measureBend';
import { type FramePreparation, prepareFrame } from '@/core/capture/prepareFrame';
import { partBy, type Parting } from '@/core/region/parted/partBy';
import { dabbedLight } from '@/core/view/dabbedLight';
import { drawMask, drawPicture, drawPlace } from '@/core/view/drawPicture';
import { followGraph, plainWorld } from '@/core/view/followGraph';
import { proofOf, type ProofScene } from '@/core/view/proofOf';
import { type ClippedShares, clippedShares } from '@/core/capture/clippedShares';
import { type CaptureFacts, type FrameMeasures } from '@/core/capture/captureFacts';
import { type FrameStops, stopsOfSet } from '@/core/capture/stopsOfSet';
import { decodeImage } from '@/core/codecs/decodeImage';
import { packProject, type ProjectParts } from '@/core/codecs/packProject';
import { type PackedFile, type ProjectFile } from '@/core/codecs/openProjectFile';
import { RARE_FORMATS } from '@/core/codecs/rareFormats';
import { sha256 } from '@/core/codecs/sha256';
import { parseProject } from '@/core/recipe/parseProject';
import { type Frame } from '@/core/recipe/project';
import { encodeOpenRaster } from '@/core/codecs/write/encodeOpenRaster';
import { applyMatch } from '@/core/match/applyMatch';
import { halfwayShare } from '@/core/match/halfway';
import { type MatchMap, shareOfStrength, withStrength } from '@/core/match/matchMap';
import { type MatchReport, matchReport } from '@/core/match/matchReport';
import { type MatchMark } from '@/core/match/matchMark';
import { mendByMarks, solveMarks } from '@/core/match/solveMarks';
import { isSamePlace, type MatchKnowledge, sampledSides, solveMatch } from '@/core/match/solveMatch';
import { apartThrough } from '@/core/match/apartThrough';
import { type KeptMatch, matchMapFrom } from '@/core/match/keptMatch';
import { matchNeighbours } from '@/core/match/matchNeighbours';
import { solveTogether, type WeighedPicture } from '@/core/match/solveTogether';
import { solveTint } from '@/core/edits/tint/solveTint';
import { findChart, type FoundChart } from '@/core/match/chart/findChart';
import { matchTexture, type TextureMatch } from '@/core/match/texture/matchTexture';
import { blockEdges } from '@/core/match/texture/blockEdges';
import { type HueShares, huesOfPicture } from '@/core/edits/hues/huesOfPicture';
import { type TintPoint } from '@/core/edits/tint/tintLine';
import { cutFromDabs } from '@/core/cutout/cutFromDabs';
import { airColour } from '@/core/ground/airColour';
import { belong } from '@/core/ground/belong';
import { cameraOfPicture } from '@/core/ground/lines/cameraOfPicture';
import { type LightColour } from '@/core/ground/light';
import { srgbToLinear } from '@/core/raster/srgb';
import { inflate } from '@/core/ground/inflate';
import { cutPicture, roughCutPicture } from '@/core/cutout/cutPicture';
import { findSky, type FoundSky } from '@/core/cutout/sky/findSky';
import { drawnLight } from '@/core/view/drawnLight';
import { cutoutPixels } from '@/core/cutout/cutoutPixels';
import { type Dab } from '@/core/cutout/dab';
import { encodeAlphaPng } from '@/core/codecs/write/encodePng';
import { encodePicture, type PictureKind } from '@/core/codecs/write/encodePicture';
import { type Metadata } from '@/core/codecs/write/exifBlock';
import { layerPicture } from '@/core/view/layerPicture';
import { layPixels } from '@/core/view/layPixels';
import { finishFindings } from '@/core/finish/finishFindings';
import { type EdgeProfile, edgeProfile } from '@/core/region/edge/edgeProfile';
import { type RegionSpecks, regionSpecks } from '@/core/region/edge/specks';
import { type ToneShares, toneShares } from '@/core/finish/toneShares';
import { collapseBand } from '@/core/merge/collapseBand';
import { type Merged } from '@/core/merge/exposureFusion';
import { fuseBand } from '@/core/merge/fuseBand';
import { fuseCoarse } from '@/core/merge/fuseCoarse';
import { type FrameLight, frameLight } from '@/core/merge/movers/consistency';
import { type MoverTakes } from '@/core/merge/fusionPlan';
import { moversOf } from '@/core/merge/movers/findMovers';
import { type MoverChoice, type Movers } from '@/core/merge/movers/mover';
import { moverTakes } from '@/core/merge/movers/takeMovers';
import { mergeFindings } from '@/core/merge/mergeFindings';
import { putAway } from '@/core/raster/awayPixels';
import { type EncodedImage, sharedCopy, type White } from '@/core/raster/encodedImage';
import { halveImage } from '@/core/raster/halveImage';
import { recogniseSet, type SetCandidate } from '@/core/capture/recogniseSet';
import { frameOnGrid, gridLevel } from '@/core/merge/frameOnGrid';
import { coarserEnergy } from '@/core/merge/focus/coarserEnergy';
import { type FocusEnergy, focusEnergy } from '@/core/merge/focus/focusEnergy';
import { farAnswers } from '@/core/merge/focus/farAnswers';
import { mapBand } from '@/core/merge/focus/mapBand';
import { shareBand } from '@/core/merge/focus/shareBand';
import { fuseFocusBand } from '@/core/merge/focus/fuseFocusBand';
import { fuseFocusCoarse } from '@/core/merge/focus/fuseFocusCoarse';
import { chooseMoments, type MomentWishes } from '@/core/merge/moments/chooseMoments';
import { momentScores } from '@/core/merge/moments/momentScores';
import { lateralColour } from '@/core/capture/lateralColour';
import { enlargeImage, enlargeShares, type SmallPlace } from '@/core/merge/enlargeMerged';
import { borderChoices } from '@/core/merge/panorama/borderChoices';
import { fillBorder } from '@/core/merge/panorama/fillBorder';
import { blendTile } from '@/core/merge/panorama/blendTile';
import { measureDrawn } from '@/core/merge/panorama/measureDrawn';
import { frameSteps } from '@/core/merge/panorama/seamStep';
import { type PanoramaCanvas } from '@/core/merge/panorama/canvas';
import { panoramaFrames, planPanorama } from '@/core/merge/panorama/planPanorama';
import { previewPanorama } from '@/core/merge/panorama/previewPanorama';
import { type BackgroundForm, removeBackground, skyBackground } from '@/core/merge/stack/skyBackground';
import { stackBand } from '@/core/merge/stack/stackBand';
import { stackFindings } from '@/core/merge/stack/stackFindings';
import { dabbedCells, type IndexedDab } from '@/core/merge/seams/frameDab';
import { seamVisibility } from '@/core/merge/seams/seamVisibility';
import { shareThings } from '@/core/merge/seams/shareThings';
import { dabbedWeights } from '@/core/merge/swap/dabbedWeights';
import { likelyPart, type Swap, swapWeights } from '@/core/merge/swap/swapWeights';
import { type Matrix3, transform } from '@/core/raster/matrix3';
import { type Allocate, type Rectangle, reusedBytes } from '@/core/raster/raster';
import { type Kernel } from '@/core/raster/warp';
import { type World } from '@/core/graph/evaluate';
import { type ReducedGrid, reducedGrid } from '@/core/raster/reducedGrid';
import { mayLieStill } from '@/core/register/standsStill';
import { featurePoints, type Features } from '@/core/register/features/featurePoints';
import { linkable, linkFrames } from '@/core/register/features/linkFrames';
import { type Grey } from '@/core/register/features/refinePairs';
import { fitPanorama, type PanoramaFit } from '@/core/register/rotation/fitPanorama';
import { registerStars, starField } from '@/core/register/stars/registerStars';
import { type PairOptions, registerPair } from '@/core/register/registerPair';
import { type Registration } from '@/core/register/registration';
import { type Finding, judge } from '@/core/proof/finding';
import { isPatch, renderShare, type Share } from '@/core/view/renderShare';
import { nodeOfView, renderView } from '@/core/view/renderView';
import { fillRepair } from '@/core/view/fillRepair';
import { pictureEffects } from '@/core/view/pictureEffects';
import { repairAgreement } from '@/core/view/repairAgreement';
import { seenPicture, type SeenNode } from '@/core/view/seenPicture';
import { tracePoint, type Trace } from '@/core/view/tracePoint';
import { type DrawnGraph, type View, type ViewScene } from '@/core/view/viewScene';
import { type SpineStep } from '@/core/graph/compiledPicture';
import { heldSide } from './heldSide';
import { type Platform } from './platform';
import { standInCamera } from './standInCamera';

/** A fitted frame with its halvings. */
interface LaidFrame {
  readonly levels: readonly EncodedImage[];
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
}

/** What a frame shows to be linked by. */
interface Landmarks {
  readonly grey: Grey;
  readonly points: Features;
}

/** long edge of the grid on which moments and swaps are decided, cells */
const MOMENT_CELLS = 420;
const SWAP_CELLS = 720;
/** … and on which frames are compared with their neighbours */
const NEIGHBOUR_CELLS = 420;

/** A file ready to work with. */
type Tail<T extends readonly unknown[]> = T extends readonly [unknown, ...infer Rest] ? Rest : never;

export interface DecodedFrame {
  /** full size, then halved until the long edge is under 400 pixels; in shared memory */
  readonly levels: readonly EncodedImage[];
  readonly facts: CaptureFacts;
  readonly depth: 8 | 16 | 32;
  /** SHA-256 of the file, hexadecimal */
  readonly hash: string;
}

export interface MatchOptions extends MatchKnowledge {
  /** 0 nothing, 1 all of the change */
  readonly strength: number;
  /** code of white of what comes out */
  readonly white: White;
}

/** A picture that was made to look like another. */
export interface MatchedPicture {
  readonly image: EncodedImage;
  readonly report: MatchReport;
}

/** A cut-out as a file. */
export interface CutFile {
  readonly png: Uint8Array;
  readonly width: number;
  readonly height: number;
  /** share of the picture that it covers */
  readonly covered: number;
  /** share of the picture whose alpha the matte decided */
  readonly undecided: number;
}

/** What is measured of a frame by itself. */
export interface FrameReadings {
  readonly clipped: ClippedShares;
  readonly measures: FrameMeasures;
}

/** long edge of the picture that a sky is looked for in, pixels */
const SKY_LOOKED_AT = 1000;
/** bytes of tiles that a worker keeps from one view to the next */
const MOST_KEPT = 300e6;

const SMALLEST = 400;

/** Tones, encoded 0…1, in which the noise of the darks is measured: around code 60. */
const DARKS = [0.12, 0.35] as const;

function readingsOf(image: EncodedImage): FrameReadings {
  const noise = noiseSigma(image, DARKS);
  const sharpness = sharpnessOf(image);
  const measures = {
    ...(noise === undefined ? {} : { darkNoise: Math.min(255, 255 * noise) }),
    ...(sharpness === undefined ? {} : { sharpness: Math.min(1, sharpness) }),
  };
  return { clipped: clippedShares(image), measures };
}

/** The picture and its halvings. */
export function imageLevels(image: EncodedImage): EncodedImage[] {
  return levelsAbove(image, Infinity);
}

/** The picture and its halvings. @param allocate where those of more than so many pixels lie */
function levelsAbove(image: EncodedImage, staying: number, allocate?: Allocate): EncodedImage[] {
  const levels = [image];
  for (;;) {
    const last = levels[levels.length - 1];
    if (Math.max(last.width, last.height) < SMALLEST) return levels;
    const isAway = Math.max(1, last.width >> 1) * Math.max(1, last.height >> 1) > staying;
    levels.push(halveImage(last, isAway ? allocate : undefined));
  }
}

/** A cut-out in shared memory. */
const sharedImage = (image: EncodedImage): EncodedImage => ({
  ...image,
  data: sharedCopy(image.data),
  ...(image.alpha ? { alpha: sharedCopy(image.alpha) } : {}),
});

/** What a set does to a frame before it is merged. */
export interface Preparation extends FramePreparation {
  readonly bend?: LocalBend;
}

/** Of a picture whose largest levels are not kept: its name, and pixels of the largest that is. */
interface AwayWish {
  readonly name: string;
  readonly staying: number;
}

/** A picture with its levels, or those that stay of it. */
const keptLevels = (
  made: EncodedImage,
  away: AwayWish | undefined,
  allocate: Allocate | undefined,
): readonly EncodedImage[] =>
  away ? putAway(levelsAbove(made, away.staying, allocate), away.name, away.staying) : imageLevels(made);

const kernelAt = (level: number): Kernel => (level === 0 ? 'lanczos' : 'bilinear');

/**
 * Everything that a worker can be asked for. Each is one call into the core; pixels come and go in shared memory.
 */
export function makeTasks(platform: Platform) {
  const followed = followGraph(MOST_KEPT);
  const worldOf = ({ picture }: ViewScene, view: View, slot: string, isPatch = false): World | undefined => {
    const node = picture && nodeOfView(picture, view);
    return picture && node !== undefined ? followed.world(picture, node, slot, isPatch) : undefined;
  };
  const side = heldSide();
  const scratch = reusedBytes();
  return {
    decode: async (file: string, bytes: Uint8Array): Promise<DecodedFrame> => {
      const hash = await sha256(bytes);
      const { image, facts, depth } = await decodeImage(file, bytes, platform);
      return { levels: imageLevels(image), facts, depth, hash };
    },
    /** a frame of more than memory holds: what is measured of it, and its halvings of at most so many pixels */
    decodeAway: async (
      file: string,
      bytes: Uint8Array,
      staying: number,
    ): Promise<DecodedFrame & { readonly readings: FrameReadings }> => {
      const hash = await sha256(bytes);
      const allocate = scratch();
      const decoded = await decodeImage(file, bytes, { ...platform, allocate });
      const { facts, depth } = decoded;
      const image = decoded.image.alpha ? sharedImage(decoded.image) : decoded.image;
      const levels = image.alpha
        ? imageLevels(image)
        : putAway(levelsAbove(image, staying, allocate), hash, staying);
      return { levels, facts, depth, hash, readings: readingsOf(image) };
    },
    /** rows of a frame once more, as many as `into` has, into its memory */
    decodeInto: async (
      file: string,
      bytes: Uint8Array,
      { bend, ...preparation }: Preparation,
      into: EncodedImage,
    ): Promise<void> => {
      const allocate = scratch();
      const { image: shot } = await decodeImage(file, bytes, { ...platform, allocate });
      const prepared = prepareFrame(shot, preparation, allocate);
      const image = bend ? bendFrame(prepared, bend, allocate) : prepared;
      const from = (into.firstRow ?? 0) * image.width * 3;
      into.data.set(image.data.subarray(from, from + into.data.length));
    },
    readings: readingsOf,
    parseProject,
    readProjectFile: async (file: string, packed: PackedFile): Promise<ProjectFile> => {
      const { openProjectFile } = await RARE_FORMATS.openProjectFile();
      return (await openProjectFile(file, packed)).read();
    },
    /** the original of a frame out of a project file */
    unpackOriginal: async (
      file: string,
      packed: PackedFile,
      frame: Frame,
    ): Promise<Uint8Array<ArrayBuffer>> => {
      const { openProjectFile } = await RARE_FORMATS.openProjectFile();
      const bytes = await (await openProjectFile(file, packed)).original(frame);
      return transfer(bytes, [bytes.buffer]);
    },
    packProject: (parts: ProjectParts, written: Date): Uint8Array<ArrayBuffer> => {
      const bytes = packProject(parts, written);
      return transfer(bytes, [bytes.buffer]);
    },
    stops: (frames: readonly { image: EncodedImage; facts: CaptureFacts }[]): FrameStops[] =>
      stopsOfSet(frames),
    /** @param name of the reference, where other frames are fitted to it too */
    register: (
      reference: EncodedImage,
      frame: EncodedImage,
      options: PairOptions,
      name?: string,
    ): Registration => registerPair(reference, frame, options, side(name)),
    mayLieStill,
    /** what a frame shows to be linked by */
    landmarks: (image: EncodedImage): Landmarks => ({ grey: linkable(image), points: featurePoints(image) }),
    linkFrames: (a: Landmarks, b: Landmarks) => linkFrames(a.grey, a.points, b.grey, b.points),
    fitPanorama,
    starField,
    registerStars,
    recognise: (frames: readonly SetCandidate[]) => recogniseSet(frames),
    /** @param level halvings of the grid that it is wanted on, 1 at least */
    focusEnergy: (
      image: EncodedImage,
      matrix: Matrix3,
      width: number,
      height: number,
      level: number,
    ): FocusEnergy => {
      let energy = focusEnergy(image, matrix, width, height, level > 1 ? scratch() : undefined);
      while (energy.level < level) energy = coarserEnergy(energy);
      return energy;
    },
    shareBand,
    farAnswers,
    mapBand,
    fuseFocusBand,
    fuseFocusCoarse,
    stackBand,
    stackFindings,
    evenSky: (
      image: EncodedImage,
      how: 'subtract' | 'divide',
      form: BackgroundForm,
      out: EncodedImage,
    ): void => removeBackground(image, skyBackground(image, form), how, out),
    planPanorama,
    previewPanorama,
    borderChoices,
    lateralColour,
    fillBorder,
    blendTile,
    frameSteps,
    measureDrawn,
    chooseMoments: (
      frames: readonly LaidFrame[],
      wishes: MomentWishes,
      reference: number,
      width: number,
      height: number,
      dabs?: readonly IndexedDab[],
    ) => {
      const grid = reducedGrid(width, height, gridLevel(width, height, MOMENT_CELLS));
      const seen = frames.map((f) => frameOnGrid(f.levels, f.matrix, grid));
      const named = dabs && dabbedCells(dabs, grid, Math.max(width, height));
      const scores = momentScores(seen, grid.width, grid.height);
      return chooseMoments(seen, scores, wishes, reference, grid, named);
    },
    /** which frame makes which place of a set of which only dabs tell */
    dabbedWeights: (
      frames: readonly LaidFrame[],
      reference: number,
      width: number,
      height: number,
      dabs: readonly IndexedDab[],
    ) => {
      const grid = reducedGrid(width, height, gridLevel(width, height, SWAP_CELLS));
      const seen = frames.map((f) => frameOnGrid(f.levels, f.matrix, grid));
      return dabbedWeights(seen, reference, dabbedCells(dabs, grid, Math.max(width, height)), grid);
    },
    /** how frames differ from their neighbours: of a panorama by its fit */
    panoramaNeighbours: (
      levels: readonly (readonly EncodedImage[])[],
      fit: PanoramaFit,
      canvas: PanoramaCanvas,
    ) => matchNeighbours(panoramaFrames(levels, fit, canvas)),
    /** … and of other sets by where each lies on the reference */
    laidNeighbours: (
      frames: readonly (LaidFrame & { readonly stops: number })[],
      width: number,
      height: number,
    ) => {
      const grid = reducedGrid(width, height, gridLevel(width, height, NEIGHBOUR_CELLS));
      return matchNeighbours(
        frames.map(({ levels, matrix, stops }) => {
          const { planes, seen } = frameOnGrid(levels, matrix, grid);
          return { planes, shows: Uint8Array.from(seen, (v) => (v >= 1 ? 1 : 0)), stops };
        }),
      );
    },
    shareThings,
    /** how much the seams between frames show in the picture that they made */
    seamFindings: (
      made: Int16Array,
      frames: readonly LaidFrame[],
      image: EncodedImage,
      grid: ReducedGrid,
    ): Finding[] => {
      const seen = frames.map((f) => frameOnGrid(f.levels, f.matrix, grid));
      const shown = seamVisibility(made, seen, imageLevels(image), grid);
      return shown ? [judge('merge.seam', shown.added, shown.where && { where: shown.where })] : [];
    },
    /** where the part comes from, and how far the rest drifts; undefined when nothing to swap was found */
    swapWeights: (
      frames: readonly LaidFrame[],
      reference: number,
      taken: number,
      wished: Rectangle | undefined,
      width: number,
      height: number,
    ): { weights: Swap; part: Rectangle; drift: number } | undefined => {
      const grid = reducedGrid(width, height, gridLevel(width, height, SWAP_CELLS));
      const seen = frames.map((f) => frameOnGrid(f.levels, f.matrix, grid));
      const part = wished ?? likelyPart(seen, reference, taken, grid);
      if (!part) return undefined;
      const { matrix } = frames[taken];
      const [cx, cy] = transform(matrix, part.x + part.width / 2, part.y + part.height / 2);
      // how far the corners lie from where they would if the whole frame only shifted with the part
      const [ox, oy] = [cx - part.x - part.width / 2, cy - part.y - part.height / 2];
      const drift = [0, 1, 2, 3].reduce((worst, k) => {
        const [x, y] = [(k & 1) * (width - 1), (k >> 1) * (height - 1)];
        const [u, v] = transform(matrix, x, y);
        return Math.max(worst, Math.hypot(u - x - ox, v - y - oy));
      }, 0);
      return { weights: swapWeights(seen, reference, taken, part, grid), part, drift };
    },
    frameLight,
    /** what moved, and which frame makes it: both here, as the page's own thread must not stop for either */
    moversOf: (
      lights: readonly FrameLight[],
      stops: readonly number[],
      reference: number,
      width: number,
      height: number,
      choices: readonly MoverChoice[],
    ): { movers: Movers; takes: MoverTakes | undefined } => {
      const movers = moversOf(lights, reference, width, height, choices);
      return { movers, takes: moverTakes(movers, stops) };
    },
    fuseBand,
    fuseCoarse,
    collapseBand,
    levels: (image: EncodedImage): EncodedImage[] => imageLevels(image),
    enlargeMerged: (
      { image, shares }: Pick<Merged, 'image' | 'shares'>,
      depth: Float32Array | undefined,
      place: SmallPlace,
      size: Parameters<typeof enlargeImage>[2],
    ) => ({
      image: enlargeImage(image, place, size),
      shares: shares.map((share) => enlargeShares(share, image, place, size)),
      ...(depth ? { depth: enlargeShares(depth, image, place, size) } : {}),
    }),
    framePatches,
    /** the curve of the files, and how far it is off sRGB where it could be recovered */
    response: (
      patches: readonly FramePatches[],
      stops: readonly number[],
      wished: 'srgb' | 'recovered',
    ): { curve: Response; off?: number } => {
      const recovered = recoverResponse(sampleResponse(patches), stops);
      const curve = wished === 'recovered' && recovered ? recovered : srgbResponse();
      return { curve, ...(recovered ? { off: responseOff(recovered) } : {}) };
    },
    fillRadiance,
    baseOf,
    toneMapBand,
    measureSet: (
      frames: readonly (readonly EncodedImage[])[],
      stops: readonly number[],
      reference: number,
    ): SetMeasures => measureSet(frames, stops, reference),
    prepare: (
      image: EncodedImage,
      preparation: FramePreparation,
      away?: AwayWish,
    ): readonly EncodedImage[] => {
      const allocate = away && scratch();
      return keptLevels(prepareFrame(image, preparation, allocate), away, allocate);
    },
    apartOf,
    measureBend,
    bend: (image: EncodedImage, bend: LocalBend, away?: AwayWish): readonly EncodedImage[] => {
      const allocate = away && scratch();
      const made = bendFrame(image, bend, allocate);
      return keptLevels(made, away, allocate);
    },
    noise: (image: EncodedImage): number => noiseSigma(image) ?? 0,
    edgeFindings: (
      levels: readonly EncodedImage[],
      frames: readonly LevelledFrame[],
      moved: readonly Rectangle[],
    ): Finding[] => edgeFindings(levels, frames, moved),
    /** mean codes 0…255 of a node of light on an area of full-size pixels */
    sample: (drawn: DrawnGraph, node: string, area: Rectangle): [number, number, number] => {
      const at = { level: 0, area, kernel: 'lanczos' as const };
      const planes = drawPlace(drawn, node, at, plainWorld(drawn.made));
      const mean = (p: Float32Array): number => (255 * p.reduce((a, b) => a + b, 0)) / p.length;
      return [mean(planes[0]), mean(planes[1]), mean(planes[2])];
    },
    /** the colour of the air in an area just above the horizon */
    airColour: (drawn: DrawnGraph, node: string, area: Rectangle): LightColour => {
      const planes = drawPlace(drawn, node, { level: 0, area, kernel: 'bilinear' }, plainWorld(drawn.made));
      return airColour(planes.map((plane) => plane.map(srgbToLinear)));
    },
    /** tones of a node */
    tones: (target: SeenNode): ToneShares => toneShares(seenPicture(target)),
    /** how a picture runs across the edge of a region, and what specks it has. @param nodes `own`: what lay there before the region did anything @param size of their grid, full-size pixels @param longEdge they are looked at this large */
    edgeProfile: (
      drawn: DrawnGraph,
      nodes: { readonly mask: string; readonly picture: string; readonly own: string },
      size: { readonly width: number; readonly height: number },
      longEdge: number,
    ): { profile?: EdgeProfile; specks: RegionSpecks } => {
      const level = Math.max(0, Math.ceil(Math.log2(Math.max(size.width, size.height) / longEdge)));
      const area = { x: 0, y: 0, width: size.width >> level, height: size.height >> level };
      const world = plainWorld(drawn.made);
      const { width, height } = area;
      const mask = drawMask(drawn, nodes.mask, level, area, 'bilinear', world);
      const [planes, own] = [nodes.picture, nodes.own].map((node) =>
        drawPicture(drawn, node, level, area, 'bilinear', world),
      );
      return {
        profile: edgeProfile({ width, height, size: 2 ** level, planes, own, mask }),
        specks: regionSpecks(mask, width, height, 2 ** level),
      };
    },
    /** what the small finished picture tells */
    measureFinished: (
      image: EncodedImage,
      ...rest: Tail<Parameters<typeof finishFindings>>
    ): { findings: Finding[]; tones: ToneShares } => ({
      findings: finishFindings(image, ...rest),
      tones: toneShares(image),
    }),
    proof: (scene: ProofScene, picture: EncodedImage, crop: Rectangle, print?: Rectangle): Finding[] =>
      proofOf(scene, picture, crop, print),
    mergeFindings: (
      merged: Parameters<typeof mergeFindings>[0],
      frames: Parameters<typeof mergeFindings>[1],
      sharesMatter?: boolean,
    ): Finding[] => mergeFindings(merged, frames, sharesMatter),
    /** @param slot what looks at it: pictures of one slot follow one another, and what the next will ask for is kept */
    view: (
      scene: ViewScene,
      view: View,
      level: number,
      area: Rectangle,
      slot: string,
    ): Uint8ClampedArray<ArrayBuffer> => {
      const rgba = renderView(scene, view, level, area, kernelAt(level), worldOf(scene, view, slot));
      return transfer(rgba, [rgba.buffer]);
    },
    /** the part of a view that falls to this worker, into `out` */
    viewShare: (
      scene: ViewScene,
      view: View,
      level: number,
      area: Rectangle,
      slot: string,
      share: Share,
      out: Uint8ClampedArray,
    ): void => {
      const world = worldOf(scene, view, slot, isPatch(area));
      renderShare(scene, view, level, area, kernelAt(level), world, share, out);
    },
    trace: (
      scene: ViewScene,
      view: View,
      x: number,
      y: number,
      spine: readonly SpineStep[],
      base: boolean,
    ): Trace | undefined => tracePoint(scene, view, x, y, spine, base),
    /** a node of light on `area` of the level's grid, into `out` from row `row` on */
    draw: (
      drawn: DrawnGraph,
      node: string,
      level: number,
      area: Rectangle,
      out: EncodedImage,
      row: number,
    ): void =>
      layPixels(
        drawPicture(drawn, node, level, area, 'lanczos', plainWorld(drawn.made)),
        out,
        row * out.width,
      ),
    encode: async (
      image: EncodedImage,
      kind: PictureKind,
      metadata?: Metadata,
      quality = 92,
    ): Promise<Uint8Array> => {
      const bytes = await encodePicture(image, kind, platform.encodeJpeg, quality, metadata);
      // a large file is handed over, not copied
      return transfer(bytes, [bytes.buffer as ArrayBuffer]);
    },
    isSamePlace,
    /** a picture made to look like another, codes of `white`, and how near it came */
    match: (
      target: EncodedImage,
      reference: EncodedImage,
      { strength, white, ...knowledge }: MatchOptions,
    ): MatchedPicture => {
      const solved = solveMatch(target, reference, knowledge);
      const share = shareOfStrength(strength, halfwayShare(solved.map, solved.target));
      const map = withStrength(solved.map, share);
      return { image: applyMatch(target, map, white), report: matchReport(solved, map) };
    },
    /** the change that makes what is seen look like something else, or several things weighed: parts of a picture, or pictures as they are */
    fitMatch: (
      target: SeenNode,
      references: readonly (Omit<WeighedPicture, 'picture'> & {
        readonly picture: SeenNode | EncodedImage;
      })[],
      marks: readonly MatchMark[] = [],
    ): { readonly map: MatchMap; readonly halfway: number; readonly report: MatchReport } => {
      const solved = solveTogether(
        seenPicture(target),
        references.map((r) => ({ ...r, picture: pictureOf(r.picture) })),
      );
      const map = marks.length > 0 ? mendByMarks(solved.map, solved.target, marks) : solved.map;
      return { map, halfway: halfwayShare(map, solved.target), report: matchReport(solved, map) };
    },
    solveMarks,
    /** how far a node is from another, mean ΔE2000 of their tones, as it is and through a map */
    apartThrough: (own: SeenNode, about: SeenNode, map: KeptMatch): { before: number; after: number } =>
      apartThrough(seenPicture(own), seenPicture(about), matchMapFrom(map)),
    /** the tint along tone that a reference has over a node. @param laidOver see MatchKnowledge */
    fitTint: (target: SeenNode, reference: SeenNode | EncodedImage, laidOver?: Matrix3): TintPoint[] =>
      solveTint(
        sampledSides(seenPicture(target), 'node' in reference ? seenPicture(reference) : reference, laidOver),
      ),
    findChart: (image: EncodedImage): FoundChart | undefined => findChart(image),
    /** grain and sharpness of a node against those of another, and what makes them alike */
    fitTexture: (own: SeenNode, about: SeenNode): TextureMatch =>
      matchTexture(seenPicture(own), seenPicture(about)),
    /** see blockEdges */
    blockEdges: (image: EncodedImage): number => blockEdges(image),
    /** which hues a node holds */
    hues: (target: SeenNode): HueShares => huesOfPicture(seenPicture(target)),
    /** by what dabs on a node are told apart; undefined where one side shows nothing */
    partBy: (drawn: DrawnGraph, node: string, dabs: readonly Dab[]): Parting | undefined => {
      const light = dabbedLight(drawn, node, dabs);
      return light.inside.length > 0 && light.outside.length > 0 ? partBy(light) : undefined;
    },
    /** what dabs point at, with its halvings */
    cutPicture: (image: EncodedImage, dabs: readonly Dab[]): EncodedImage[] =>
      imageLevels(cutPicture(image, dabs)),
    /** what changes and regions do anywhere */
    effects: pictureEffects,
    /** how well each of some frames stands in for what a repair takes out */
    agreeFrames: repairAgreement,
    /** what the gap of a repair is copied from; undefined where there is nothing to copy */
    fillFrom: fillRepair,
    /** the sky of a picture, by dabs as a hand would draw them; undefined where there is none. @param size of its grid, full-size pixels */
    findSky: (
      drawn: DrawnGraph,
      node: string,
      size: { readonly width: number; readonly height: number },
    ): FoundSky | undefined => findSky(drawnLight(drawn, node, size, SKY_LOOKED_AT)),
    roughCut: roughCutPicture,
    inflate,
    belong,
    cameraOfPicture,
    /** what dabs point at, as a PNG file with opacity */
    cutOut: (image: EncodedImage, dabs: readonly Dab[]): CutFile => {
      const cutout = cutFromDabs(image, dabs);
      const { width, height, alpha, undecided } = cutout;
      const png = encodeAlphaPng(cutoutPixels(cutout, image.white === 255 ? 255 : 65535), width, height);
      const covered = alpha.reduce((sum, a) => sum + a, 0) / alpha.length;
      return transfer({ png, width, height, covered, undecided }, [png.buffer as ArrayBuffer]);
    },
    /** one frame of the stand-in camera as a JPEG file */
    standIn: standInCamera(platform, platform.readScene),
    layerPicture,
    openRaster: encodeOpenRaster,
  };
}

/** A part of a picture as it is seen, or a picture as it is. */
const pictureOf = (seen: SeenNode | EncodedImage): EncodedImage =>
  'node' in seen ? seenPicture(seen) : seen;

export type Tasks = ReturnType<typeof makeTasks>;
