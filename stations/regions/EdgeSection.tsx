'use client';
import { useEffect, useState } from 'react';
import { type CompiledPicture } from '@/core/graph/compile';
import { type EdgeProfile } from '@/core/region/edge/edgeProfile';
import { drawnGraph } from '@/store/buildScene';
import { type RegionOwner } from '@/store/edits/regions';
import { EdgeChart } from '@/ui/chart/EdgeChart';
import { Hint } from '@/ui/Section';
import { useBench, useBenchParts } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

/** pictures are looked at this large, pixels of the long edge */
const LOOKED_AT = 1500;
/** an edge is measured again so long after the last change, milliseconds */
const QUIET = 250;

/** How the picture runs across the edge of a region, with rims that it has. */
export function EdgeSection({ owner }: { readonly owner: RegionOwner }) {
  const profile = useEdgeProfile(owner);
  if (profile === undefined) return <Hint>{TEXT.edgeWaits}</Hint>;
  if (profile === 'none') return <Hint>{TEXT.noEdge}</Hint>;
  const says = TEXT.edgeSays(profile.rim.inside, profile.rim.outside, profile.width);
  return (
    <>
      <EdgeChart label={`${TEXT.edgeChart}. ${says}`} {...profile} />
      <Hint>{says}</Hint>
    </>
  );
}

/** The mask of an owner's region, and the picture on the same grid. */
function edgeNodes(compiled: CompiledPicture, owner: RegionOwner): readonly [string, string] | undefined {
  const { result, finished } = compiled;
  if (owner.kind === 'edit') {
    const nodes = compiled.edits.get(owner.edit);
    return nodes?.mask === undefined ? undefined : [nodes.mask, nodes.late ? finished : result];
  }
  const mask =
    owner.kind === 'layer'
      ? compiled.layers.find((l) => l.id === owner.layer)?.mask
      : compiled.regions.get(owner.region);
  return mask === undefined ? undefined : [mask, result];
}

/** The profile of a region's edge, made in a worker when nothing has changed for a while; `none` where there is too little edge. */
function useEdgeProfile(owner: RegionOwner): EdgeProfile | 'none' | undefined {
  const { bench, viewer } = useBenchParts();
  const [profile, setProfile] = useState<EdgeProfile | 'none'>();
  // one string, so that what is equal stays the same
  const wanted = useBench((state) => {
    const compiled = bench.shown(state).built?.compiled;
    return compiled && edgeNodes(compiled, owner)?.join(' ');
  });
  useEffect(() => {
    const { built } = bench.shown(bench.store.getState());
    const [mask, picture] = wanted?.split(' ') ?? [];
    const drawn = built && picture !== undefined ? drawnGraph(built, [mask, picture]) : undefined;
    if (!built || !drawn) return;
    const { width, height } = built.compiled;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.edgeProfile(drawn, { mask, picture }, { width, height }, LOOKED_AT), {
          signal: controller.signal,
          priority: -2,
        })
        .then((found) => setProfile(found ?? 'none'))
        .catch(() => undefined);
    }, QUIET);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, viewer, wanted]);
  return wanted === undefined ? 'none' : profile;
}
