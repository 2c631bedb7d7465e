'use client';
import { allLayers } from '@/core/layers/layer';
import { type Edit } from '@/core/edits/edit';
import { changes } from '@/core/edits/ranked';
import { setScope } from '@/core/recipe/setFrames';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type EditOwner } from '@/store/edits/list';
import { smallMerge } from '@/store/smallMerge';
import { Thumbnail } from '@/ui/Thumbnail';
import { useActions, useBench, useProject } from '../benchContext';
import { useTarget } from '../edits/useTarget';
import { EDITS_TEXT } from '../edits/text';
import { PictureCard, PictureCards } from '../tray/PictureCards';
import { MATCH_TEXT as TEXT } from './text';

function described(edits: readonly Edit[]): string {
  const made = edits.filter(changes);
  if (made.length === 0) return 'unchanged';
  const names = [...new Set(made.map((e) => EDITS_TEXT.names[e.kind].toLowerCase()))];
  return names.join(' · ');
}

interface Entry {
  readonly target: EditOwner;
  readonly name: string;
  readonly edits: readonly Edit[];
  /** whose pixels stand for it */
  readonly set?: string;
  readonly frame?: string;
}

/** What can be matched by itself, and what was done to it. */
export function MatchTray() {
  const project = useProject();
  const target = useTarget();
  const actions = useActions();
  const entries: Entry[] = [
    ...project.sets.map((s) => ({
      target: { kind: 'set' as const, id: s.id },
      name: project.sets.length === 1 ? TEXT.targets.set : s.name,
      edits: s.edits,
      set: s.id,
    })),
    ...allLayers(project.layers).map((l) => ({
      target: { kind: 'layer' as const, id: l.id },
      name: `Layer ${l.name}`,
      edits: l.edits,
      ...(l.kind !== 'picture'
        ? {}
        : l.source.kind === 'set'
          ? { set: l.source.set }
          : { frame: l.source.frame }),
    })),
    { target: { kind: 'whole' }, name: TEXT.targets.whole, edits: project.edits, set: project.base },
  ];
  const keyOf = (at: EditOwner): string => (at.kind === 'whole' ? at.kind : `${at.kind} ${at.id}`);
  return (
    <PictureCards title={TEXT.target}>
      {entries.map((entry) => (
        <PictureCard
          key={keyOf(entry.target)}
          name={entry.name}
          note={described(entry.edits)}
          pressed={keyOf(entry.target) === keyOf(target)}
          onPress={() => actions.go({ target: entry.target, edit: '' })}
        >
          <EntryPicture entry={entry} />
        </PictureCard>
      ))}
    </PictureCards>
  );
}

function EntryPicture({ entry: { set, frame } }: { readonly entry: Entry }) {
  const image = useBench((s): EncodedImage | undefined => {
    const { project } = s.history;
    const scope = set === undefined ? undefined : setScope(project, set);
    if (scope) return smallMerge(s, scope);
    const hash = project.frames.find((f) => f.id === frame)?.hash;
    return hash ? s.decoded[hash]?.levels.at(-1) : undefined;
  });
  return image ? <Thumbnail image={image} label="" /> : null;
}
