import { type SetKind } from '@/core/capture/setKind';
import { EDIT_KINDS, type EditKindName } from '@/core/edits/editKinds';
import { kindOf, says } from '@/core/edits/ranked';
import { allLayers } from '@/core/layers/layer';
import { type Project } from '@/core/recipe/project';
import { inOrder, setScope } from '@/core/recipe/setFrames';
import { toolOfFrame } from '@/stations/merge/frameInHand';
import { SEAM_TEXT } from '@/stations/merge/text';
import { PART_KINDS, type PartKindName } from '@/core/region/partKinds';
import { EVERYWHERE, type Part, type Region } from '@/core/region/region';
import { type BenchActions } from '@/store/benchState';
import { type EditOwner, editsAt } from '@/store/edits/list';
import { addPart, type RegionOwner, regionOf } from '@/store/edits/regions';
import { type Session } from '@/store/session';
import { EDITS_TEXT } from '@/stations/edits/text';
import { joinFor } from '@/stations/regions/joinFor';
import { toolOfPart } from '@/stations/regions/toolOfPart';
import { partSays } from '@/stations/regions/sentence';
import { REGION_TEXT } from '@/stations/regions/text';
import { type Command } from './CommandFinder';

interface Place {
  readonly at: EditOwner;
  readonly name: string;
}

/** kinds of which a place can be taken from one frame */
const POINTED: ReadonlySet<SetKind> = new Set(['moments', 'swap']);

const DRAWN = (Object.keys(PART_KINDS) as PartKindName[]).filter((k) => k !== 'named');

function placesOf({ sets, layers }: Project): Place[] {
  const { owners } = EDITS_TEXT;
  return [
    { at: { kind: 'whole' }, name: owners.whole.toLowerCase() },
    ...sets.map(({ id, name }): Place => ({ at: { kind: 'set', id }, name: owners.set(name) })),
    ...allLayers(layers).map(({ id, name }): Place => ({
      at: { kind: 'layer', id },
      name: owners.layer(name),
    })),
  ];
}

/**
 * Commands of what a picture holds: every layer, edit and part of a region by its name, every kind of edit for what is being changed, and
 * every kind of part for the region that is open.
 */
export function editCommands(project: Project, session: Session, actions: BenchActions): Command[] {
  const toEdit = (at: EditOwner, edit: string): void => {
    if (at.kind === 'layer') actions.go({ station: 'layers', layer: at.id, layerPart: 'edits', edit });
    else actions.go({ station: 'match', target: at, edit });
  };
  const places = placesOf(project);
  const made = places.flatMap(({ at, name }) =>
    editsAt(project, at).flatMap((edit): Command[] => {
      const title = EDITS_TEXT.names[edit.kind];
      const does = kindOf(edit).changes(edit.settings) ? `: ${says(edit)}` : '';
      const owner: RegionOwner = { kind: 'edit', at, edit: edit.id };
      return [
        { id: `edit ${edit.id}`, name: `${title} of ${name}${does}`, run: () => toEdit(at, edit.id) },
        ...partCommands(regionOf(project, owner), `${title} of ${name}`, edit.id, () => toEdit(at, edit.id)),
      ];
    }),
  );
  const layers = allLayers(project.layers).flatMap(({ id, name }): Command[] => {
    const show = (): void => actions.go({ station: 'layers', layer: id });
    const where = (): void => actions.go({ station: 'layers', layer: id, layerPart: 'where' });
    const region = regionOf(project, { kind: 'layer', layer: id });
    return [
      { id: `layer ${id}`, name: EDITS_TEXT.owners.layer(name), run: show },
      ...partCommands(region, EDITS_TEXT.owners.layer(name), id, where),
    ];
  });
  const target =
    session.station === 'layers' && session.layer ? layerPlace(places, session.layer) : undefined;
  const current = target ?? places.find((p) => same(p.at, session.target)) ?? places[0];
  const kinds = (Object.keys(EDIT_KINDS) as EditKindName[])
    // the range of a radiance map is its set's alone
    .filter((kind) => kind !== 'toneMap' || current.at.kind === 'set')
    .map((kind): Command => ({
      id: `change ${kind}`,
      name: `Change ${EDITS_TEXT.names[kind].toLowerCase()} of ${current.name}`,
      run: () => toEdit(current.at, kind),
    }));
  const marks = (['white', 'grey', 'keep', 'same'] as const).map((says): Command => ({
    id: `mark ${says}`,
    name: `${EDITS_TEXT.match.marks.title} of ${current.name}: ${EDITS_TEXT.match.marks.says[says].toLowerCase()}`,
    run: () => (toEdit(current.at, 'match'), actions.take(`mark ${says}`)),
  }));
  const own = [
    ...addCommands(project, session, current, actions),
    ...placeCommands(project, session, actions),
  ];
  return [...kinds, ...marks, ...own, ...made, ...layers];
}

/** Taking a place from each frame of the set that is worked on, where it is joined from places of its frames. */
function placeCommands(project: Project, session: Session, actions: BenchActions): readonly Command[] {
  const scope = setScope(project, project.sets.find((s) => s.id === session.set)?.id ?? project.base);
  if (!scope || !POINTED.has(scope.set.kind)) return [];
  return inOrder(scope).map((frame, i) => ({
    id: `from ${frame.id}`,
    name: SEAM_TEXT.command(`Frame ${i + 1}`),
    run: () => {
      actions.go({ station: 'merge', look: 'fitted', frame: frame.id });
      actions.take(toolOfFrame(frame.id));
    },
  }));
}

const layerPlace = (places: readonly Place[], id: string): Place | undefined =>
  places.find(({ at }) => at.kind === 'layer' && at.id === id);

const same = (a: EditOwner, b: EditOwner): boolean =>
  a.kind === b.kind && (a.kind === 'whole' || b.kind === 'whole' || a.id === b.id);

function partCommands(
  region: Region | undefined,
  of: string,
  id: string,
  run: () => void,
): readonly Command[] {
  return (region?.parts ?? []).map(({ part }, i) => ({
    id: `part ${id} ${i}`,
    name: `Where ${of}: ${partSays(part)}`,
    run,
  }));
}

/** A part more, for the edit that is open, or the layer that is chosen. */
function addCommands(
  project: Project,
  session: Session,
  { at, name }: Place,
  actions: BenchActions,
): readonly Command[] {
  const edit = editsAt(project, at).find((e) => e.id === session.edit || e.kind === session.edit);
  const owner: RegionOwner | undefined =
    at.kind === 'layer' && session.layerPart === 'where'
      ? { kind: 'layer', layer: at.id }
      : edit && { kind: 'edit', at, edit: edit.id };
  if (!owner) return [];
  const of = owner.kind === 'edit' && edit ? `${EDITS_TEXT.names[edit.kind]} of ${name}` : name;
  const { parts } = regionOf(project, owner) ?? EVERYWHERE;
  return DRAWN.map((kind) => ({
    id: `add ${kind}`,
    name: `${REGION_TEXT.add} where ${of}: ${REGION_TEXT.kinds[kind].toLowerCase()}`,
    run: () => {
      actions.edit(
        `${REGION_TEXT.kinds[kind]} of ${of}`,
        addPart(owner, joinFor(kind, parts), {
          kind,
          settings: PART_KINDS[kind].plain,
        } as unknown as Part),
      );
      const tool = toolOfPart(kind);
      if (tool) actions.take(tool, { owner, part: parts.length });
    },
  }));
}
