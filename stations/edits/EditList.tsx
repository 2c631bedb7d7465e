'use client';
import { memo } from 'react';
import { Button as Press, MenuTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS, type EditKindName } from '@/core/edits/editKinds';
import { changes, kindOf, ranked, says } from '@/core/edits/ranked';
import { RANKS } from '@/core/edits/rank';
import { allLayers } from '@/core/layers/layer';
import { idleEdits } from '@/store/effectFindings';
import { effectsNow } from '@/store/stages/effectStage';
import { regionOf } from '@/store/edits/regions';
import { copyEdit, addEdit, type EditOwner, editsAt, newEdit, removeEdit, setEdit } from '@/store/edits/list';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, focusRing, FONT, touchable } from '@/ui/tokens';
import { useActions, useBench, useProject } from '../benchContext';
import { RegionEditor } from '../regions/RegionEditor';
import { regionSentence } from '../regions/sentence';
import { EditForm } from './EditForm';
import { newEditId, ownerKey } from './editIds';
import { EDITS_TEXT as TEXT } from './text';

const List = styled.ol`
  border-bottom: 1px solid ${COLOUR.line};
  > li {
    border-top: 1px solid ${COLOUR.line};
  }
`;

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  padding-right: 12px;
  &[data-open] {
    background: ${COLOUR.raised};
  }
  label {
    gap: 0;
    font-size: 0;
  }
`;

const Open = styled(Press)`
  ${touchable}
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
  min-height: 32px;
  padding: 6px 8px 6px 15px;
  border: 0;
  background: none;
  text-align: left;
  cursor: default;
  b {
    font-weight: 600;
    font-size: 13px;
  }
  small {
    font: 11.5px/1.35 ${FONT.number};
    color: ${COLOUR.quiet};
    overflow-wrap: anywhere;
  }
  &[data-off] b,
  &[data-off] small {
    color: ${COLOUR.quiet};
    text-decoration: line-through;
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -3px;
  }
`;

const More = styled.li`
  padding: 3px 15px;
`;

const Body = styled.div`
  display: flex;
  flex-direction: column;
  gap: 7px;
  padding: 4px 15px 13px;
  background: ${COLOUR.raised};
`;

/** A line of the list: an edit that is made, or a kind that none is made of yet. */
interface ListLine {
  readonly key: string;
  readonly kind: EditKindName;
  readonly edit?: Edit;
}

/** Every kind that applies, each with the edits that are made of it, in the order in which they are done. */
function linesOf(at: EditOwner, edits: readonly Edit[], kinds: readonly EditKindName[]): ListLine[] {
  const made = ranked(edits).map((edit): ListLine => ({ key: edit.id, kind: edit.kind, edit }));
  const missing = kinds
    .filter((kind) => !edits.some((e) => e.kind === kind))
    // the id that the first change gives it: the line, and the hand on its slider, stay where they are
    .map((kind): ListLine => ({ key: newEditId(at, kind), kind }));
  const rank = ({ kind, edit }: ListLine): number => RANKS.indexOf(edit?.rank ?? EDIT_KINDS[kind].rank);
  return [...made, ...missing].sort((a, b) => rank(a) - rank(b));
}

/** What an edit does, as a line: how, where, how much. */
function lineOf(edit: Edit, where: string): string {
  if (!kindOf(edit).changes(edit.settings)) return TEXT.unchanged;
  // all of a picture cannot be replaced
  if (edit.kind === 'repair' && where === '') return TEXT.unchanged;
  const amount = edit.amount === 1 ? '' : `, ${Math.round(100 * edit.amount)} %`;
  return `${says(edit)}${where === '' ? '' : ` ${where}`}${amount}`;
}

export interface EditListProps {
  readonly at: EditOwner;
  readonly kinds: readonly EditKindName[];
  /** kinds that have a line only when they are made, or asked for */
  readonly more?: readonly EditKindName[];
  /** what is open while nothing else was opened */
  readonly first?: EditKindName;
}

/** The edits at a set, a layer or the whole: one line each, one open at a time. */
export function EditList({ at, kinds, more = NO_KINDS, first }: EditListProps) {
  const { edits, open } = useBench((s) => ({
    edits: editsAt(s.history.project, at),
    open: s.session.edit,
  }));
  const effects = useBench((s) => effectsNow(s, s.history.project));
  const idle = idleEdits(edits, effects);
  const actions = useActions();
  const asked = more.filter((kind) => open === kind || open === newEditId(at, kind));
  const lines = linesOf(at, edits, [...kinds, ...asked]);
  const others = more.filter((kind) => !lines.some((l) => l.kind === kind));
  const own =
    lines.find((l) => l.key === open) ??
    lines.find((l) => l.kind === open) ??
    (open === '' ? lines.find((l) => l.kind === first) : undefined);
  return (
    <List aria-label="Edits">
      {lines.map((line) => (
        <li key={line.key}>
          <EditLine
            at={at}
            line={line}
            isOpen={line === own}
            onOpen={() => actions.go({ edit: line === own ? CLOSED : line.key })}
          />
        </li>
      ))}
      {idle.length > 0 && (
        <More>
          <Hint>{TEXT.idle(idle.map((e) => TEXT.names[e.kind]))}</Hint>
          <Button
            onPress={() =>
              actions.edit(TEXT.tookIdle, (draft) => idle.forEach((e) => removeEdit(at, e.id)(draft)))
            }
          >
            {TEXT.takeIdle}
          </Button>
        </More>
      )}
      {others.length > 0 && (
        <More>
          <MenuTrigger>
            <Button data-plain>{TEXT.more} ▾</Button>
            <ActionList
              label={TEXT.more}
              items={others.map((id) => ({ id, name: TEXT.names[id], note: '' }))}
              onAction={(key) => actions.go({ edit: String(key) })}
            />
          </MenuTrigger>
        </More>
      )}
    </List>
  );
}

const NO_KINDS: readonly EditKindName[] = [];

/** nothing is open, by choice */
const CLOSED = '-';

interface EditLineProps {
  readonly at: EditOwner;
  readonly line: ListLine;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
}

const EditLine = memo(function EditLine({ at, line, isOpen, onOpen }: EditLineProps) {
  const { kind, edit } = line;
  const actions = useActions();
  const where = useBench((s) => {
    const region = edit && regionOf(s.history.project, { kind: 'edit', at, edit: edit.id });
    return region ? regionSentence(region) : '';
  });
  const name = TEXT.names[kind];
  const done = edit !== undefined && changes(edit);
  return (
    <>
      <Line data-open={isOpen ? '' : undefined}>
        <Open
          aria-expanded={isOpen}
          aria-label={`${name}: ${edit ? lineOf(edit, where) : TEXT.unchanged}`}
          data-off={edit && !edit.on ? '' : undefined}
          onPress={onOpen}
        >
          <b style={{ fontWeight: done ? 600 : 400 }}>{name}</b>
          <small>{edit ? lineOf(edit, where) : TEXT.unchanged}</small>
        </Open>
        {edit && (
          <Toggle
            label={`${name} ${TEXT.on.toLowerCase()}`}
            value={edit.on}
            onChange={(on) =>
              actions.edit(`${on ? 'Switched on' : 'Switched off'}: ${name}`, setEdit(at, edit.id, { on }))
            }
          />
        )}
      </Line>
      {isOpen && (
        <Body>
          <EditForm at={at} kind={kind} edit={edit} />
          {edit && <EditShare at={at} edit={edit} />}
        </Body>
      )}
    </>
  );
});

/** How far an edit is taken over, where, and what else can be done with it. */
function EditShare({ at, edit }: { readonly at: EditOwner; readonly edit: Edit }) {
  const actions = useActions();
  const compares = useBench((s) => s.session.look === 'before' && s.session.before === 'edit');
  const look = useBench((s) => s.session.station === 'finish' || s.session.station === 'proof');
  const name = TEXT.names[edit.kind];
  return (
    <>
      <Measure
        label={TEXT.amount}
        value={edit.amount}
        min={0}
        max={1}
        step={0.01}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(amount) =>
          actions.edit(`${name}, how much`, setEdit(at, edit.id, { amount }), `amount ${edit.id}`)
        }
      />
      <RegionEditor owner={{ kind: 'edit', at, edit: edit.id }} name={name} />
      <Row>
        <Button
          aria-pressed={compares}
          onPress={() =>
            actions.go(
              compares
                ? { look: look ? 'finished' : 'result' }
                : { look: 'before', before: 'edit', edit: edit.id },
            )
          }
        >
          {TEXT.compare}
        </Button>
        <Button
          onPress={() => {
            const id = crypto.randomUUID();
            actions.edit(`One more: ${name}`, addEdit(at, newEdit(id, edit.kind)));
            actions.go({ edit: id });
          }}
        >
          {TEXT.another}
        </Button>
        <UseElsewhere at={at} edit={edit} />
        <Button data-plain onPress={() => actions.edit(`Took away: ${name}`, removeEdit(at, edit.id))}>
          {TEXT.remove}
        </Button>
      </Row>
    </>
  );
}

/** Uses an edit at another layer, set, or the whole: a copy of it. */
function UseElsewhere({ at, edit }: { readonly at: EditOwner; readonly edit: Edit }) {
  const project = useProject();
  const actions = useActions();
  const places: { readonly owner: EditOwner; readonly name: string }[] = [
    { owner: { kind: 'whole' }, name: TEXT.owners.whole },
    ...project.sets.map((s) => ({
      owner: { kind: 'set' as const, id: s.id },
      name: TEXT.owners.set(s.name),
    })),
    ...allLayers(project.layers).map((l) => ({
      owner: { kind: 'layer' as const, id: l.id },
      name: TEXT.owners.layer(l.name),
    })),
  ];
  const others = places.filter(({ owner }) => ownerKey(owner) !== ownerKey(at) || owner.kind !== at.kind);
  if (edit.kind === 'toneMap') return null;
  return (
    <MenuTrigger>
      <Button>{TEXT.use} ▾</Button>
      <ActionList
        label={TEXT.use}
        items={others.map(({ owner, name }) => ({ id: `${owner.kind} ${ownerKey(owner)}`, name, note: '' }))}
        onAction={(key) => {
          const to = others.find(({ owner }) => `${owner.kind} ${ownerKey(owner)}` === key);
          if (to)
            actions.edit(
              `${TEXT.names[edit.kind]} at ${to.name.toLowerCase()} too`,
              copyEdit(at, edit.id, to.owner, crypto.randomUUID()),
            );
        }}
      />
    </MenuTrigger>
  );
}
