'use client';
import { styled } from 'styled-components';
import { balancedCodes } from '@/core/edits/neutral/neutralOf';
import { Button } from '@/ui/controls/Button';
import { Hint } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.neutral;

const Codes = styled.div`
  display: grid;
  grid-template-columns: 14px 52px repeat(3, 1fr);
  align-items: center;
  gap: 4px 8px;
  font: 12px ${FONT.number};
  i {
    width: 14px;
    height: 14px;
    border: 1px solid ${COLOUR.control};
  }
  span {
    color: ${COLOUR.quiet};
  }
`;

/** A patch that should be grey, before and after. */
export function NeutralControls({ settings }: EditControls<'neutral'>) {
  const inHand = useBench((s) => s.tool === 'patch');
  const actions = useActions();
  const sampled = settings.gains.some((g) => g !== 1);
  const line = (name: string, codes: readonly number[]) => (
    <>
      <i style={{ background: `rgb(${codes.map(Math.round).join(' ')})` }} aria-hidden />
      <span>{name}</span>
      {codes.map((c, i) => (
        <b key={i} style={{ fontWeight: 400 }}>
          {'RGB'[i]} {c.toFixed(1)}
        </b>
      ))}
    </>
  );
  return (
    <>
      <Button
        data-main={sampled ? undefined : ''}
        aria-pressed={inHand}
        onPress={() => actions.take(inHand ? undefined : 'patch')}
      >
        {inHand ? TEXT.sampling : TEXT.sample}
      </Button>
      {sampled && (
        <Codes aria-label="Codes of the patch">
          {line(TEXT.before, settings.before)}
          {line(TEXT.after, balancedCodes(settings.before, settings))}
        </Codes>
      )}
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
