'use client';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Button as Press, MenuTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { MOVING_KINDS } from '@/core/graph/compile';
import { PART_KINDS, type PartKindName } from '@/core/region/partKinds';
import { JOINS, type Part, type Region, type RegionPart } from '@/core/region/region';
import {
  addPart,
  clearRegion,
  nameRegion,
  regionOf,
  type RegionOwner,
  removePart,
  setPart,
  setRegion,
  takeRegion,
} from '@/store/edits/regions';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { TextLine } from '@/ui/controls/TextLine';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, focusRing, touchable } from '@/ui/tokens';
import { useActions, useBench, useProject, useScope } from '../benchContext';
import { EdgeSection } from './EdgeSection';
import { bringFrom, saveRegion } from './regionFiles';
import { dabInHand } from './dabInHand';
import { joinFor } from './joinFor';
import { PartControls } from './PartControls';
import { partSays } from './sentence';
import { SkyButton } from './SkyButton';
import { REGION_TEXT as TEXT } from './text';
import { toolOfPart } from './toolOfPart';

const Box = styled.div`
  display: flex;
  flex-direction: column;
  gap: 7px;
`;

const Sentence = styled.ul`
  border-bottom: 1px solid ${COLOUR.line};
  > li {
    border-top: 1px solid ${COLOUR.line};
  }
`;

const Open = styled(Press)`
  ${touchable}
  display: flex;
  align-items: baseline;
  gap: 5px;
  width: 100%;
  min-height: 30px;
  padding: 5px 0;
  border: 0;
  background: none;
  text-align: left;
  cursor: default;
  small {
    flex: none;
    color: ${COLOUR.quiet};
    font-size: 12px;
  }
  &[data-out] span {
    color: ${COLOUR.quiet};
    text-decoration: line-through;
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const Part = styled.div`
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 2px 0 9px 10px;
  border-left: 2px solid ${COLOUR.line};
`;

/** what adds from a file */
const FROM_FILE = 'file';

const share = (v: number): string => `${(100 * v).toFixed(1)} %`;

const KINDS = Object.keys(PART_KINDS).filter((k) => k !== 'named') as Exclude<PartKindName, 'named'>[];

/** Where something is, as a sentence whose parts can each be opened, switched off and turned round. */
export function RegionEditor({ owner, name }: { readonly owner: RegionOwner; readonly name: string }) {
  const region = useBench((s) => regionOf(s.history.project, owner));
  const [open, setOpen] = useState(-1);
  const [shaped, setShaped] = useState(false);
  // a thing that is being pointed at is open, whoever took the tool in hand
  const taken = useBench((s) => {
    const own = dabInHand(s.tool) && JSON.stringify(s.drawing?.owner);
    return own === JSON.stringify(owner) ? s.drawing?.part : undefined;
  });
  const actions = useActions();
  const edit = (label: string, change: Parameters<typeof actions.edit>[1], gesture?: string): void =>
    actions.edit(`${label} of ${name}`, change, gesture);
  const add = (kind: PartKindName, settings: object): void => {
    const count = region?.parts.length ?? 0;
    edit(
      TEXT.kinds[kind],
      addPart(owner, joinFor(kind, region?.parts ?? []), { kind, settings } as unknown as Part),
    );
    setOpen(count);
    const tool = toolOfPart(kind);
    if (tool) actions.take(tool, { owner, part: count });
  };
  const isLifted = region?.parts.some(({ part }) => part.kind === 'thing') ?? false;
  return (
    <Box role="group" aria-label={`${TEXT.where}: ${name}`}>
      {region && region.parts.length > 0 ? (
        <Sentence>
          {region.parts.map((part, at) => (
            <li key={at}>
              <PartLine
                owner={owner}
                name={name}
                part={part}
                at={at}
                isOpen={at === open || at === taken}
                onOpen={() => {
                  setOpen(at === open || at === taken ? -1 : at);
                  if (taken !== undefined) actions.take(undefined);
                }}
              />
            </li>
          ))}
        </Sentence>
      ) : (
        <Hint>{TEXT.everywhere}</Hint>
      )}
      {region?.name && <Hint>{`“${region.name}”. ${TEXT.shared}`}</Hint>}
      <Row>
        {!isLifted && (
          <Button onPress={() => add('thing', PART_KINDS.thing.plain)}>
            {owner.kind === 'layer' ? TEXT.lift : TEXT.pointAt}
          </Button>
        )}
        <SkyButton owner={owner} name={name} isThere={isLifted} />
      </Row>
      <Row>
        <AddPart onAdd={add} owner={owner} name={name} />
        {region && (
          <Button aria-expanded={shaped} onPress={() => setShaped(!shaped)}>
            {TEXT.shape} {shaped ? '▴' : '▾'}
          </Button>
        )}
        {region && (
          <Button
            aria-pressed={region.invert}
            onPress={() => edit('Turned the region', setRegion(owner, { invert: !region.invert }))}
          >
            {TEXT.invert}
          </Button>
        )}
      </Row>
      <Row>
        <Button isDisabled={!region} onPress={() => edit('Revealed all', clearRegion(owner, 'everywhere'))}>
          {TEXT.all}
        </Button>
        <Button onPress={() => edit('Hid all', clearRegion(owner, 'nowhere'))}>{TEXT.none}</Button>
      </Row>
      {region && shaped && <Shape region={region} owner={owner} name={name} />}
    </Box>
  );
}

interface PartLineProps {
  readonly owner: RegionOwner;
  readonly name: string;
  readonly part: RegionPart;
  readonly at: number;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
}

function PartLine({ owner, name, part, at, isOpen, onOpen }: PartLineProps) {
  const actions = useActions();
  const { how, turned, on } = part;
  const set = (label: string, change: Parameters<typeof setPart>[2], gesture?: string): void =>
    actions.edit(`${label} of ${name}`, setPart(owner, at, change), gesture);
  const title = `${turned ? 'outside of ' : ''}${partSays(part.part)}`;
  const join = at === 0 && how !== 'remove' ? '' : TEXT.joins[how];
  return (
    <>
      <Open
        aria-expanded={isOpen}
        aria-label={`${join} ${title}`.trim()}
        data-out={on ? undefined : ''}
        onPress={onOpen}
      >
        {join && <small>{join}</small>}
        <span>{title}</span>
      </Open>
      {isOpen && (
        <Part>
          <PartControls
            owner={owner}
            at={at}
            part={part.part}
            isRemoved={part.how === 'remove'}
            onChange={(settings, label, gesture) =>
              set(label, { part: { ...part.part, settings } as Part }, gesture && `${gesture} ${name} ${at}`)
            }
          />
          <Choice
            label={TEXT.joined}
            value={how}
            options={JOINS.map((value) => ({ value, label: TEXT.joins[value] }))}
            onChange={(next) => set('Joined otherwise: a part', { how: next })}
          />
          <Row>
            <Toggle
              label={TEXT.on}
              value={on}
              onChange={(next) => set(next ? 'A part' : 'Without a part', { on: next })}
            />
            <Toggle
              label={TEXT.turned}
              value={turned}
              onChange={(next) => set('A part turned round', { turned: next })}
            />
            <Button
              data-plain
              aria-label={TEXT.remove}
              onPress={() => actions.edit(`${TEXT.remove}: ${name}`, removePart(owner, at))}
            >
              <Trash2 aria-hidden />
            </Button>
          </Row>
        </Part>
      )}
    </>
  );
}

function AddPart({
  onAdd,
  owner,
  name,
}: {
  readonly onAdd: (kind: PartKindName, settings: object) => void;
  readonly owner: RegionOwner;
  readonly name: string;
}) {
  const project = useProject();
  const set = useScope()?.set.kind;
  const actions = useActions();
  const own = owner.kind === 'named' ? owner.region : '';
  const kinds = KINDS.filter((kind) => {
    if (kind === 'distance') return set === 'focus';
    return kind !== 'motion' || (set !== undefined && MOVING_KINDS.has(set));
  });
  const named = project.regions.filter((r) => r.id !== own);
  const choose = (key: string): void => {
    const [what, id] = key.split(' ');
    const kind = kinds.find((k) => k === key);
    if (kind) return onAdd(kind, PART_KINDS[kind].plain);
    if (key === FROM_FILE) return void bringFrom(owner, name, actions);
    if (what === 'part') return onAdd('named', { region: id });
    actions.edit(
      `A named region for ${name}`,
      takeRegion(owner, id, what === 'copy' ? crypto.randomUUID() : undefined),
    );
  };
  return (
    <MenuTrigger>
      <Button>{TEXT.add} ▾</Button>
      <ActionList
        label={TEXT.add}
        items={[
          ...kinds.map((kind) => ({ id: kind, name: TEXT.kinds[kind], note: '' })),
          ...named.flatMap((r) => [
            { id: `same ${r.id}`, name: r.name, note: TEXT.same },
            { id: `copy ${r.id}`, name: r.name, note: TEXT.copy },
            { id: `part ${r.id}`, name: r.name, note: 'as a part' },
          ]),
          ...(owner.kind === 'named' ? [] : [{ id: FROM_FILE, name: TEXT.bring, note: '' }]),
        ]}
        onAction={choose}
      />
    </MenuTrigger>
  );
}

/** How the region's edge runs, and the name by which others can use it. */
function Shape({
  region,
  owner,
  name,
}: {
  readonly region: Region;
  readonly owner: RegionOwner;
  readonly name: string;
}) {
  const actions = useActions();
  const project = useProject();
  const [title, setTitle] = useState('');
  const line = (part: 'smooth' | 'grow' | 'feather' | 'follow', min: number, max: number) => (
    <Measure
      label={TEXT[part]}
      value={region[part] ?? 0}
      min={min}
      max={max}
      step={0.001}
      neutral={part === 'grow' ? 0 : undefined}
      format={share}
      onChange={(v) =>
        actions.edit(`${TEXT[part]} of ${name}`, setRegion(owner, { [part]: v }), `${part} ${region.id}`)
      }
    />
  );
  return (
    <>
      {line('smooth', 0, 0.02)}
      {line('grow', -0.03, 0.03)}
      {line('feather', 0, 0.05)}
      {line('follow', 0, 0.03)}
      {/* what was measured of another region is not shown for this one */}
      <EdgeSection key={region.id} owner={owner} region={region} name={name} />
      <Button onPress={() => saveRegion(region, project)}>{TEXT.save}</Button>
      {region.name === '' && owner.kind !== 'named' && (
        <Row>
          <TextLine label={TEXT.named} value={title} onChange={setTitle} />
          <Button
            isDisabled={title.trim() === ''}
            onPress={() =>
              actions.edit(
                `Named the region “${title.trim()}”`,
                nameRegion(owner, crypto.randomUUID(), title.trim()),
              )
            }
          >
            {TEXT.keepName}
          </Button>
        </Row>
      )}
    </>
  );
}
