'use client';
import { useEffect, useState } from 'react';
import { type CompiledPicture } from '@/core/graph/compiledPicture';
import { type EdgeProfile } from '@/core/region/edge/edgeProfile';
import { longEdgeOf } from '@/core/recipe/pictureGrid';
import { type RegionSpecks } from '@/core/region/edge/specks';
import { type Region } from '@/core/region/region';
import { drawnGraph } from '@/store/buildScene';
import { type RegionOwner, setRegion } from '@/store/edits/regions';
import { EdgeChart } from '@/ui/chart/EdgeChart';
import { Button } from '@/ui/controls/Button';
import { Hint } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { featherFor } from './featherFor';
import { SpeckLine } from './SpeckLine';
import { REGION_TEXT as TEXT } from './text';

/** What is told of a region's edge. */
interface MeasuredEdge {
  /** nodes that it was measured of */
  readonly of: string;
  readonly profile?: EdgeProfile;
  readonly specks: RegionSpecks;
}

/** pictures are looked at this large, pixels of the long edge */
const LOOKED_AT = 1500;
/** an edge is measured again so long after the last change, milliseconds */
const QUIET = 250;

/** a region's edge that is this much softer or harder than the picture's own is offered another feather */
const [SOFTER, HARDER] = [1.6, 0.6];

interface EdgeProps {
  readonly owner: RegionOwner;
  readonly region: Region;
  readonly name: string;
}

/** How the picture runs across the edge of a region, with rims that it has, how soft both are, and the region's specks. */
export function EdgeSection({ owner, region, name }: EdgeProps) {
  const { measured, isNew } = useEdge(owner);
  const longEdge = useBench((s) => longEdgeOf(s.history.project));
  if (measured === undefined) return <Hint>{TEXT.edgeWaits}</Hint>;
  if (measured === 'none') return <Hint>{TEXT.noEdge}</Hint>;
  // what was measured of an earlier state stays in sight, and is not said of this one
  if (!isNew)
    return (
      <>
        {measured.profile && <EdgeChart label={TEXT.edgeWaits} {...measured.profile} />}
        <Hint>{TEXT.edgeWaits}</Hint>
      </>
    );
  const { profile, specks } = measured;
  return (
    <>
      {profile ? (
        <ProfileLines profile={profile} owner={owner} region={region} name={name} longEdge={longEdge} />
      ) : (
        <Hint>{TEXT.noEdge}</Hint>
      )}
      <SpeckLine specks={specks} owner={owner} name={name} longEdge={longEdge} smooth={region.smooth ?? 0} />
    </>
  );
}

interface ProfileProps extends EdgeProps {
  readonly profile: EdgeProfile;
  readonly longEdge: number;
}

function ProfileLines({ profile, owner, region, name, longEdge }: ProfileProps) {
  const actions = useActions();
  const { rim, width, ownWidth } = profile;
  const says = TEXT.edgeSays(rim.inside, rim.outside, width);
  const apart = ownWidth === undefined ? 1 : width / ownWidth;
  const feather = ownWidth === undefined ? 0 : featherFor(width, ownWidth, region.feather, longEdge);
  const changes = (apart > SOFTER || apart < HARDER) && Math.abs(feather - region.feather) * longEdge > 0.25;
  return (
    <>
      <EdgeChart label={`${TEXT.edgeChart}. ${says}`} {...profile} />
      <Hint>{says}</Hint>
      {ownWidth !== undefined && <Hint>{TEXT.ownEdge(ownWidth, width, changes)}</Hint>}
      {changes && (
        <Button onPress={() => actions.edit(`${TEXT.matchEdge}: ${name}`, setRegion(owner, { feather }))}>
          {TEXT.matchEdge}
        </Button>
      )}
    </>
  );
}

/** The mask of an owner's region, the picture on the same grid, and what lay there before. */
function edgeNodes(
  compiled: CompiledPicture,
  owner: RegionOwner,
): readonly [mask: string, picture: string, own: string] | undefined {
  const { result, finished } = compiled;
  if (owner.kind === 'edit') {
    const nodes = compiled.edits.get(owner.edit);
    if (nodes?.mask === undefined) return undefined;
    return [nodes.mask, nodes.late ? finished : result, nodes.before];
  }
  if (owner.kind === 'layer') {
    const layer = compiled.layers.find((l) => l.id === owner.layer);
    return layer?.mask === undefined ? undefined : [layer.mask, result, layer.plain];
  }
  const mask = compiled.regions.get(owner.region);
  return mask === undefined ? undefined : [mask, result, compiled.base];
}

/** A region's edge and specks, measured in a worker when nothing has changed for a while; `none` where there is no region. `isNew`: of the region as it is now. */
function useEdge(owner: RegionOwner): { measured?: MeasuredEdge | 'none'; isNew: boolean } {
  const { bench, viewer } = useBenchParts();
  const [measured, setMeasured] = useState<MeasuredEdge>();
  // one string, so that what is equal stays the same
  const wanted = useBench((state) => {
    const compiled = bench.shown(state).built?.compiled;
    return compiled && edgeNodes(compiled, owner)?.join(' ');
  });
  useEffect(() => {
    const { built } = bench.shown(bench.store.getState());
    const [mask, picture, own] = wanted?.split(' ') ?? [];
    const drawn = built && picture !== undefined ? drawnGraph(built, [mask, picture, own]) : undefined;
    if (!built || !drawn) return;
    const { width, height } = built.compiled;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.edgeProfile(drawn, { mask, picture, own }, { width, height }, LOOKED_AT), {
          signal: controller.signal,
          priority: -2,
        })
        .then((edge) => setMeasured({ ...edge, of: wanted ?? '' }))
        .catch(() => undefined);
    }, QUIET);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, viewer, wanted]);
  if (wanted === undefined) return { measured: 'none', isNew: true };
  return { measured, isNew: measured?.of === wanted };
}
