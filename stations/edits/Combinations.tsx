'use client';
import { useState, useSyncExternalStore } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { applyCombination, type Combination, combinationOf } from '@/store/combinations/combination';
import { keepCombinations, keptCombinations, onCombinations } from '@/store/combinations/keptCombinations';
import { PLAIN_COMBINATIONS } from '@/store/combinations/plainCombinations';
import { type EditOwner } from '@/store/edits/list';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { TextLine } from '@/ui/controls/TextLine';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useProject } from '../benchContext';
import { EDITS_TEXT } from './text';

const TEXT = EDITS_TEXT.combinations;
const NONE: readonly Combination[] = [];
/** how far one is taken over before anybody says (half is usual) */
const HALF = 0.5;

const note = ({ edits }: Combination): string => edits.map(({ kind }) => EDITS_TEXT.names[kind]).join(', ');

/** Edits under one name: made here, or what is made here kept for other pictures. */
export function Combinations({ at }: { readonly at: EditOwner }) {
  const actions = useActions();
  const project = useProject();
  const kept = useSyncExternalStore(onCombinations, keptCombinations, () => NONE);
  const [amount, setAmount] = useState(HALF);
  const [name, setName] = useState<string>();
  const all = [...kept, ...PLAIN_COMBINATIONS];
  const some = combinationOf(project, at, '', '');
  const save = (): void => {
    const own = combinationOf(project, at, crypto.randomUUID(), (name ?? '').trim());
    if (!own) return;
    if (keepCombinations([own, ...kept])) setName(undefined);
    else actions.report(TEXT.full);
  };
  return (
    <Section title={TEXT.title}>
      <Measure
        label={EDITS_TEXT.amount}
        value={amount}
        min={0.05}
        max={1}
        step={0.05}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={setAmount}
      />
      <Row>
        <MenuTrigger>
          <Button>{TEXT.make} ▾</Button>
          <ActionList
            label={TEXT.make}
            items={all.map((c) => ({ id: c.id, name: c.name, note: note(c) }))}
            onAction={(id) => {
              const own = all.find((c) => c.id === id);
              if (own)
                actions.edit(
                  TEXT.made(own.name),
                  applyCombination(at, own, amount, () => crypto.randomUUID()),
                );
            }}
          />
        </MenuTrigger>
        <Button isDisabled={!some} onPress={() => setName(name === undefined ? '' : undefined)}>
          {TEXT.save}
        </Button>
        {kept.length > 0 && (
          <MenuTrigger>
            <Button data-plain>{TEXT.forget} ▾</Button>
            <ActionList
              label={TEXT.forget}
              items={kept.map((c) => ({ id: c.id, name: c.name, note: '' }))}
              onAction={(id) => keepCombinations(kept.filter((c) => c.id !== id))}
            />
          </MenuTrigger>
        )}
      </Row>
      {name !== undefined && some && (
        <>
          <TextLine label={TEXT.name} value={name} onChange={setName} />
          <Row>
            <Button data-main="" isDisabled={name.trim() === ''} onPress={save}>
              {TEXT.keep(some.edits.length)}
            </Button>
          </Row>
        </>
      )}
      <Hint>{TEXT.hint}</Hint>
    </Section>
  );
}
