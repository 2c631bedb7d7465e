import { dabsInPixels } from '@/core/cutout/cutPicture';
import { isParted, type PartedSettings } from '@/core/region/parted/parted';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/benchState';
import { drawnGraph } from '@/store/buildScene';
import { regionOf, type RegionOwner, setPart } from '@/store/edits/regions';
import { readFrom } from './laidPicture';

/** A part of a region that dabs part, with dabs that are new to it. */
export interface PartingAsked {
  readonly bench: Bench;
  readonly viewer: WorkerPool;
  readonly owner: RegionOwner;
  readonly at: number;
  readonly settings: PartedSettings;
  /** name of the step */
  readonly label: string;
}

/** Finds by what dabs are told apart, and makes it one step together with the dabs. */
export async function partAgain({ bench, viewer, owner, at, settings, label }: PartingAsked): Promise<void> {
  const { built } = bench.shown(bench.store.getState());
  const node = built && readFrom(built.compiled, owner);
  const drawn = built && node !== undefined ? drawnGraph(built, [node]) : undefined;
  const gesture = `parting ${performance.now()}`;
  const put = (found: Partial<PartedSettings>): void =>
    bench.actions.edit(
      label,
      setPart(owner, at, { part: { kind: 'parted', settings: { ...settings, ...found } } }),
      gesture,
    );
  // the dabs at once: the next one is drawn upon them, however long the parting takes
  put({});
  if (!built || !drawn || node === undefined || !isParted(settings)) return;
  const dabs = dabsInPixels(settings.dabs, built.compiled);
  // a parting that fails leaves the dabs, and the range as it was
  const found = await viewer.run((tasks) => tasks.partBy(drawn, node, dabs)).catch(() => undefined);
  const now = regionOf(bench.store.getState().history.project, owner)?.parts[at]?.part;
  // what was found for dabs that have changed since is of no use
  if (found && now?.kind === 'parted' && now.settings.dabs === settings.dabs) put(found);
}
