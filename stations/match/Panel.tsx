'use client';
import { allLayers } from '@/core/layers/layer';
import { EDIT_KINDS, type EditKindName } from '@/core/edits/editKinds';
import { type EditOwner } from '@/store/edits/list';
import { PickOne } from '@/ui/controls/PickOne';
import { Section } from '@/ui/Section';
import { useActions, useProject, useScope } from '../benchContext';
import { Combinations } from '../edits/Combinations';
import { EditList } from '../edits/EditList';
import { ownerKey } from '../edits/editIds';
import { useTarget } from '../edits/useTarget';
import { StationFindings } from '../stationFindings';
import { NeighbourSection } from './NeighbourSection';
import { MATCH_TEXT as TEXT } from './text';

/** what is done to light and detail when tone and colour stand */
const MORE: readonly EditKindName[] = ['overTime', 'detail', 'deblur', 'veil', 'glow', 'vignette'];
const KINDS = (Object.keys(EDIT_KINDS) as EditKindName[]).filter((kind) => !MORE.includes(kind));

/** What is changed in a set, a layer or the whole: a list, one line an edit. */
export function MatchPanel() {
  const at = useTarget();
  const scope = useScope();
  // a radiance map alone has a range to be pressed, and only its set can do that
  const ranged = at.kind === 'set' && scope?.set.id === at.id && scope.set.method === 'radiance';
  const kinds = KINDS.filter((kind) => kind !== 'toneMap' || (ranged && scope?.set.kind === 'bracket'));
  return (
    <>
      <StationFindings station="match" title={TEXT.name} none={TEXT.none} />
      <TargetSection at={at} />
      {at.kind === 'set' && scope?.set.id === at.id && <NeighbourSection scope={scope} />}
      <EditList key={ownerKey(at)} at={at} kinds={kinds} more={MORE} first="zones" />
      <Combinations at={at} />
    </>
  );
}

function TargetSection({ at }: { readonly at: EditOwner }) {
  const actions = useActions();
  const { sets, layers } = useProject();
  const places: { readonly value: string; readonly label: string; readonly owner: EditOwner }[] = [
    { value: 'whole', label: TEXT.targets.whole, owner: { kind: 'whole' } },
    ...sets.map((s) => ({
      value: `set ${s.id}`,
      label: sets.length === 1 ? TEXT.targets.set : s.name,
      owner: { kind: 'set' as const, id: s.id },
    })),
    ...allLayers(layers).map((l) => ({
      value: `layer ${l.id}`,
      label: `Layer ${l.name}`,
      owner: { kind: 'layer' as const, id: l.id },
    })),
  ];
  const value = at.kind === 'whole' ? 'whole' : `${at.kind} ${at.id}`;
  return (
    <Section title={TEXT.target}>
      <PickOne
        label="Change"
        value={value}
        options={places}
        onChange={(next) => {
          const owner = places.find((p) => p.value === next)?.owner;
          if (owner) actions.go({ target: owner, edit: '' });
        }}
      />
    </Section>
  );
}
