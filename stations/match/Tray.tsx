'use client';
import { type Adjust, adjusts } from '@/core/match/adjust';
import { type AdjustTarget } from '@/store/edits';
import { Thumbnail } from '@/ui/Thumbnail';
import { useActions, useBench } from '../benchContext';
import { PictureCard, PictureCards } from '../tray/PictureCards';
import { MATCH_TEXT as TEXT } from './text';

function described(adjust: Adjust): string {
  const zones = adjust.zones.filter((z) => z.by !== 0).length;
  const parts = [
    adjust.neutral ? 'neutral' : '',
    zones > 0 ? `${zones} ${zones === 1 ? 'zone' : 'zones'}` : '',
    adjust.saturation === 1 ? '' : `${Math.round(100 * adjust.saturation)} %`,
  ].filter(Boolean);
  return adjusts(adjust) ? parts.join(' · ') : 'unchanged';
}

/** What can be matched by itself, and what was done to it. */
export function MatchTray() {
  const { project, target, merged, decoded } = useBench((s) => ({
    project: s.history.project,
    target: s.session.target,
    merged: s.merged,
    decoded: s.decoded,
  }));
  const actions = useActions();
  const small = merged?.scene.levels[merged.scene.levels.length - 1];
  const entries: { target: AdjustTarget; name: string; adjust: Adjust; frame?: string }[] = [
    { target: { kind: 'set' }, name: TEXT.targets.set, adjust: project.match.set },
    ...project.layers.map((l) => ({
      target: { kind: 'layer' as const, id: l.id },
      name: `Layer ${l.name}`,
      adjust: l.adjust,
      ...(l.source.kind === 'frame' ? { frame: l.source.frame } : {}),
    })),
    { target: { kind: 'whole' }, name: TEXT.targets.whole, adjust: project.match.whole },
  ];
  const same = (a: AdjustTarget): boolean => JSON.stringify(a) === JSON.stringify(target);
  return (
    <PictureCards title={TEXT.target}>
      {entries.map((entry) => {
        const hash = project.frames.find((f) => f.id === entry.frame)?.hash;
        const levels = hash ? decoded[hash]?.levels : undefined;
        const image = levels?.[levels.length - 1] ?? small;
        return (
          <PictureCard
            key={JSON.stringify(entry.target)}
            name={entry.name}
            note={described(entry.adjust)}
            pressed={same(entry.target)}
            onPress={() => actions.go({ target: entry.target })}
          >
            {image && <Thumbnail image={image} label="" />}
          </PictureCard>
        );
      })}
    </PictureCards>
  );
}
