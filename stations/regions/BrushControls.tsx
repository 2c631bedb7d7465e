'use client';
import { brushSide, withSide } from '@/store/brushSide';
import { type RegionOwner } from '@/store/edits/regions';
import { type Brush } from '@/store/session';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** The brush, and taking it in hand for a region; at a chosen layer it is in hand anyway. */
export function BrushControls({ owner }: { readonly owner: RegionOwner }) {
  const { brush, side, inHand, session } = useBench((s) => ({
    brush: s.session.brush,
    side: brushSide(s, owner),
    inHand: s.tool === 'brush',
    session: s.session,
  }));
  const actions = useActions();
  const set = (change: Partial<Brush>): void => actions.go({ brush: { ...brush, ...change } });
  return (
    <>
      {owner.kind !== 'layer' && (
        <Button
          aria-pressed={inHand}
          onPress={() => (inHand ? actions.take(undefined) : actions.take('brush', { owner, part: -1 }))}
        >
          {inHand ? TEXT.painting : TEXT.paint}
        </Button>
      )}
      <Choice
        label={TEXT.brush}
        value={side}
        options={[
          { value: 'reveal', label: TEXT.actions.reveal },
          { value: 'hide', label: TEXT.actions.hide },
        ]}
        onChange={(action) => actions.go({ sides: withSide(session, owner, action) })}
      />
      <Toggle label={TEXT.inside} value={brush.inside ?? false} onChange={(inside) => set({ inside })} />
      <Measure
        label={TEXT.flow}
        value={brush.flow}
        min={0.05}
        max={1}
        step={0.05}
        format={percent}
        onChange={(flow) => set({ flow })}
      />
      <Measure
        label={TEXT.softness}
        value={brush.softness}
        min={0}
        max={1}
        step={0.05}
        format={percent}
        onChange={(softness) => set({ softness })}
      />
      <Measure
        label={TEXT.size}
        value={Math.log2(brush.size)}
        min={-9}
        max={-0.5}
        step={0.1}
        format={(v) => `${(100 * 2 ** v).toFixed(1)} %`}
        onChange={(v) => set({ size: 2 ** v })}
      />
      <Measure
        label={TEXT.steady}
        value={brush.steady ?? 0}
        min={0}
        max={1}
        step={0.05}
        format={percent}
        onChange={(steady) => set({ steady })}
      />
      <Hint>{TEXT.brushKeys}</Hint>
    </>
  );
}
