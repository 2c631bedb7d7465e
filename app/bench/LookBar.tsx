'use client';
import { MenuTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { MASK_FORMS } from '@/core/view/showMask';
import { type View } from '@/core/view/viewScene';
import { type Look } from '@/store/session';
import { LOOK_NAMES, MASK_FORM_NAMES } from '@/stations/looks';
import { useActions, useBench, useFrames, useHasScene } from '@/stations/benchContext';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { type PicturePoint } from '@/ui/table/tool';
import { COLOUR, FONT } from '@/ui/tokens';
import { type Followed, useFollowed } from '@/ui/useFollowed';
import { usePixelTrace } from './usePixelTrace';

const Bar = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 10px;
  border-bottom: 1px solid ${COLOUR.line};
  min-width: 0;
  @media (max-width: 1100px) {
    gap: 4px;
    [role='radio'],
    > button {
      padding: 0 6px;
    }
  }
`;

const Readout = styled.output`
  margin-left: auto;
  font: 11.5px ${FONT.number};
  color: ${COLOUR.quiet};
  white-space: pre;
  overflow: hidden;
`;

export interface LookBarProps {
  readonly options: readonly Look[];
  readonly look: Look;
  readonly onLook: (look: Look) => void;
  readonly zoom: number;
  readonly onZoom: () => void;
  /** whether the table shows greys only */
  readonly greys: boolean;
  readonly onGreys: () => void;
  readonly view: View;
  /** where the pointer is on the picture */
  readonly pointer: Followed<PicturePoint | undefined>;
}

/** What the table shows, and what lies under the pointer. */
export function LookBar({
  options,
  look,
  onLook,
  zoom,
  onZoom,
  greys,
  onGreys,
  view,
  pointer,
}: LookBarProps) {
  const hasScene = useHasScene();
  if (!hasScene) return <Bar />;
  const percent = zoom >= 0.1 ? Math.round(100 * zoom) : (100 * zoom).toFixed(1);
  return (
    <Bar>
      {options.length > 1 && (
        <Choice
          label="On the table"
          value={look}
          options={options.map((value) => ({ value, label: LOOK_NAMES[value] }))}
          onChange={onLook}
        />
      )}
      {look === 'mask' && <MaskForms />}
      <Button data-plain onPress={onZoom} aria-label="Between the whole picture and 1:1">
        {percent} %
      </Button>
      <Button
        data-plain
        aria-pressed={greys}
        aria-label="In greys, to judge how light it is"
        onPress={onGreys}
      >
        {greys ? 'In colour' : 'In greys'}
      </Button>
      <PointReadout view={view} pointer={pointer} />
    </Bar>
  );
}

/** How the mask on the table is seen. */
function MaskForms() {
  const form = useBench((s) => s.session.maskForm ?? 'hatched');
  const actions = useActions();
  return (
    <MenuTrigger>
      <Button data-plain aria-label={`How the mask is seen: ${MASK_FORM_NAMES[form]}`}>
        {MASK_FORM_NAMES[form]} ▾
      </Button>
      <ActionList
        label="How the mask is seen"
        items={MASK_FORMS.map((id) => ({ id, name: MASK_FORM_NAMES[id], note: id === form ? 'now' : '' }))}
        onAction={(id) => actions.go({ maskForm: MASK_FORMS.find((f) => f === id) })}
      />
    </MenuTrigger>
  );
}

const UNDER = 'Under the pointer';

/** Codes, zone and origin of the pixel under the pointer, once it rests. */
function PointReadout({ view, pointer }: Pick<LookBarProps, 'view' | 'pointer'>) {
  const frames = useFrames();
  const at = useFollowed(pointer, (now) => now);
  const found = usePixelTrace(view, at);
  if (!at || !found) return <Readout aria-label={UNDER} />;
  const { x, y, trace } = found;
  const name = (id: string): string =>
    frames.find((f) => f.frame.id === id)?.name.replace('Frame ', '') ?? '?';
  const origin = trace.shares
    .filter((s) => s.share >= 0.1)
    .slice(0, 3)
    .map((s) => `${name(s.frame)}:${Math.round(100 * s.share)}%`)
    .join(' ');
  const zone =
    trace.zone === undefined
      ? ''
      : `${trace.zone < 0 ? '−' : '+'}${Math.abs(trace.zone).toFixed(1)} stops   `;
  return (
    <Readout
      aria-label={UNDER}
    >{`x ${x} y ${y}   ${trace.rgb.join(' ')}   ${zone}${origin && `from ${origin}`}`}</Readout>
  );
}
