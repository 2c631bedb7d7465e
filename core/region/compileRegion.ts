import { type GraphBuilder } from '../graph/graph';
import { type PartKind, type PartPlace } from './partKind';
import { PART_KINDS } from './partKinds';
import { type Part, type Region } from './region';

/** least length, pixels, that shapes a mask in a way that can be seen */
const LEAST = 0.3;

const kindOf = (part: Part): PartKind<object> => PART_KINDS[part.kind] as unknown as PartKind<object>;

/** @returns hash of a region's mask; undefined where it is everywhere */
export function compileRegion(graph: GraphBuilder, region: Region, place: PartPlace): string | undefined {
  const parts = region.parts
    .filter((p) => p.on)
    .flatMap(({ how, turned, part }) => {
      const mask = kindOf(part).compile(graph, part.settings, place);
      return mask === undefined ? [] : [{ how, turned, mask }];
    });
  // everywhere, turned inside out, is nowhere
  if (parts.length === 0)
    return region.invert ? graph.add('turnMask', {}, [graph.add('joinParts', { parts: [] }, [])]) : undefined;
  const [first] = parts;
  let mask =
    parts.length === 1 && !first.turned && first.how !== 'remove'
      ? first.mask
      : graph.add(
          'joinParts',
          { parts: parts.map(({ how, turned }) => ({ how, turned })) },
          parts.map((p) => p.mask),
        );
  const { longEdge, picture } = place;
  const smooth = (region.smooth ?? 0) * longEdge;
  if (smooth >= LEAST) mask = graph.add('smoothMask', { radius: smooth }, [mask, mask]);
  const [by, radius, follow] = [region.grow, region.feather, region.follow].map((share) => share * longEdge);
  if (Math.abs(by) >= LEAST) mask = graph.add('growMask', { by }, [mask]);
  if (radius >= LEAST) mask = graph.add('featherMask', { radius }, [mask]);
  if (follow >= LEAST && picture)
    mask = graph.add('followEdges', { radius: follow }, [mask, picture, picture]);
  return region.invert ? graph.add('turnMask', {}, [mask]) : mask;
}
