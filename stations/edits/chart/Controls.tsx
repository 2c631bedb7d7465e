'use client';
import { styled } from 'styled-components';
import { chartDifferences } from '@/core/match/chart/chartProfile';
import { CHART, CHART_COLUMNS, CHART_LIGHT } from '@/core/match/chart/chartPatches';
import { changes, findEdit } from '@/core/edits/ranked';
import { type Frame } from '@/core/recipe/project';
import { chartIn, readChart } from '@/store/chartOfFrame';
import { editsAt } from '@/store/edits/list';
import { Button } from '@/ui/controls/Button';
import { PickOne } from '@/ui/controls/PickOne';
import { lightInk } from '@/ui/ink';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts, useProject } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.chart;

/** part of a frame’s sides that is left free about corners which are set by hand */
const MARGIN = 0.3;

/** Corners in the middle of a frame, to be pulled. */
function middleOf({ width, height }: Frame): [number, number][] {
  const [x, y] = [MARGIN * width, MARGIN * height];
  return [
    [x, y],
    [width - x, y],
    [width - x, height - y],
    [x, height - y],
  ];
}

/** White and colours from a chart in a frame: where it is, and how near its patches come. */
export function ChartControls({ at, settings, onChange }: EditControls<'chart'>) {
  const { bench } = useBenchParts();
  const actions = useActions();
  const { frames } = useProject();
  const { chosen, pulling, twice } = useBench((s) => {
    const neutral = findEdit(editsAt(s.history.project, at), 'neutral');
    return {
      chosen: s.session.frame,
      pulling: s.tool === 'chart',
      twice: neutral !== undefined && changes(neutral),
    };
  });
  const frame =
    [settings.frame, chosen].map((id) => frames.find((f) => f.id === id)).find((f) => f) ?? frames.at(0);
  if (!frame) return <Hint>{TEXT.hint}</Hint>;
  const isKnown = settings.frame === frame.id && settings.corners.length > 0;
  const show = (): void => actions.go({ look: 'shot', frame: frame.id });
  const find = async (): Promise<void> => {
    const corners = await chartIn(bench, frame.id, TEXT.finding);
    if (corners === undefined) return;
    if (corners === 'none') return actions.report(TEXT.none(frame.file));
    const read = readChart(bench, frame.id, corners);
    if (!read) return actions.report(TEXT.unread);
    onChange(read, TEXT.found(frame.file));
    show();
  };
  const byHand = (): void => {
    onChange({ ...bare, frame: frame.id, corners: middleOf(frame) }, TEXT.byHand);
    show();
    actions.take('chart');
  };
  return (
    <>
      <PickOne
        label={TEXT.frame}
        value={frame.id}
        options={frames.map((f) => ({ value: f.id, label: f.file }))}
        onChange={(id) => {
          onChange({ ...bare, frame: id }, `${TEXT.frame}: ${frames.find((f) => f.id === id)?.file ?? ''}`);
          actions.go({ look: 'shot', frame: id });
        }}
      />
      <Row>
        <Button {...(isKnown ? {} : { 'data-main': '' })} onPress={() => void find()}>
          {isKnown ? TEXT.again : TEXT.find}
        </Button>
        {isKnown ? (
          <Button
            aria-pressed={pulling}
            onPress={() => {
              show();
              actions.take(pulling ? undefined : 'chart');
            }}
          >
            {pulling ? TEXT.pulling : TEXT.pull}
          </Button>
        ) : (
          <Button onPress={byHand}>{TEXT.byHand}</Button>
        )}
      </Row>
      {settings.colours.length > 0 ? (
        <Patches colours={settings.colours} matrix={settings.matrix} />
      ) : (
        isKnown && <Hint>{TEXT.unread}</Hint>
      )}
      {twice && settings.colours.length > 0 && <Hint>{TEXT.twice}</Hint>}
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}

/** a chart that is not read */
const bare = { colours: [], corners: [], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] };

const Grid = styled.ul`
  display: grid;
  grid-template-columns: repeat(${CHART_COLUMNS}, 1fr);
  gap: 2px;
  li {
    display: grid;
    grid-template-columns: 1fr 1fr;
    grid-template-rows: 20px auto;
    font: 10px/1.4 ${FONT.number};
    text-align: center;
    color: ${COLOUR.quiet};
  }
  small {
    grid-column: 1 / 3;
    font: inherit;
  }
`;

const Lines = styled.dl`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 9px;
  dd {
    font: 11.5px/1.5 ${FONT.number};
    margin: 0;
  }
`;

function Patches({ colours, matrix }: Pick<EditControls<'chart'>['settings'], 'colours' | 'matrix'>) {
  const { patches, before, after } = chartDifferences(colours, matrix);
  const worst = (of: 'before' | 'after'): number => Math.max(...patches.map((p) => p?.[of] ?? 0));
  const line = (from: number, to: number): string => `${from.toFixed(1)} → ${to.toFixed(1)}`;
  return (
    <>
      <Grid aria-label={TEXT.table}>
        {patches.map((patch, i) => {
          const deltaE = patch ? patch.after.toFixed(1) : TEXT.clipped;
          return (
            <li key={CHART[i].name} aria-label={TEXT.patch(CHART[i].name, deltaE)} title={CHART[i].name}>
              <i style={{ background: lightInk(CHART_LIGHT[i]) }} />
              <i style={{ background: patch ? lightInk(patch.light) : 'transparent' }} />
              <small>{patch ? deltaE : '—'}</small>
            </li>
          );
        })}
      </Grid>
      <Lines>
        <dt>{TEXT.mean}</dt>
        <dd>{line(before, after)}</dd>
        <dt>{TEXT.worst}</dt>
        <dd>{line(worst('before'), worst('after'))}</dd>
      </Lines>
    </>
  );
}
