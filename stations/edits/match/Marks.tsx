'use client';
import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { markCheck, type MatchSettings, MOST_MARKS, type PlacedMark } from '@/core/edits/match/matchSettings';
import { type Code, contradicting, type MarkSays } from '@/core/match/matchMark';
import { setMarks } from '@/store/matchByMarks';
import { type EditOwner } from '@/store/edits/list';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts } from '../../benchContext';
import { newEditId } from '../editIds';
import { EDITS_TEXT } from '../text';
import { markInHand } from './useMarkTool';

const TEXT = EDITS_TEXT.match.marks;
const SAYS = ['white', 'grey', 'keep', 'same'] as const satisfies readonly MarkSays[];

const List = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  li {
    display: grid;
    grid-template-columns: 16px 14px minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 8px;
    border-top: 1px solid ${COLOUR.line};
  }
  b {
    font: 11.5px ${FONT.number};
  }
  i {
    width: 14px;
    height: 14px;
    border: 1px solid ${COLOUR.control};
  }
`;

const codes = (code: Code): string => code.map((v) => Math.round(255 * v)).join(' ');

/** What is known of places of the picture: marks to set, and what became of each. */
export function Marks({ at, settings }: { readonly at: EditOwner; readonly settings: MatchSettings }) {
  const { bench } = useBenchParts();
  const actions = useActions();
  const tool = useBench((s) => s.tool);
  const inHand = markInHand(tool);
  const { marks = [] } = settings;
  const checks = marks.map((mark) => ({ mark, ...markCheck(mark, settings) }));
  const against = contradicting(checks.map((c) => c.off));
  const without = (mark: PlacedMark): void =>
    void setMarks(
      bench,
      at,
      marks.filter((m) => m !== mark),
      newEditId(at, 'match'),
      TEXT.removed,
    );
  return (
    <>
      <Row role="group" aria-label={TEXT.title}>
        {SAYS.map((says) => {
          const isIn = inHand === says || (says === 'same' && tool === 'mark like');
          return (
            <Button
              key={says}
              aria-pressed={isIn}
              isDisabled={marks.length >= MOST_MARKS}
              {...(isIn ? { 'data-main': true } : {})}
              onPress={() => actions.take(isIn ? undefined : `mark ${says}`)}
            >
              {TEXT.says[says]}
            </Button>
          );
        })}
      </Row>
      <Hint>{tool === 'mark like' ? TEXT.second : inHand ? TEXT.press[inHand] : TEXT.hint}</Hint>
      {marks.length > 0 && (
        <List aria-label={TEXT.list}>
          {checks.map(({ mark, now, off }, i) => (
            <li key={i}>
              <b>{i + 1}</b>
              <i style={{ background: `rgb(${codes(now)})` }} aria-hidden />
              <span>{against[i] ? TEXT.against(TEXT.says[mark.says]) : TEXT.says[mark.says]}</span>
              <b>
                {codes(now)} · {TEXT.off(off)}
              </b>
              <Button data-plain aria-label={TEXT.remove(i + 1)} onPress={() => without(mark)}>
                <X size={12} aria-hidden />
              </Button>
            </li>
          ))}
        </List>
      )}
    </>
  );
}
