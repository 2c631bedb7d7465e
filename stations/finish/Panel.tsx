'use client';
import { memo, useState } from 'react';
import { type CropRatio } from '@/core/finish/cropRatio';
import { setGeometry } from '@/store/edits/geometry';
import { tiltOf } from '@/core/finish/straighten';
import { activeScope } from '@/store/activeSet';
import { mergedNow } from '@/store/madePixels';
import { allMade } from '@/store/stages/nextStage';
import { deliver, type DeliveryKind, exportProject, type OutFile } from '@/store/deliver';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { download } from '../download';
import { Combinations } from '../edits/Combinations';
import { EditList } from '../edits/EditList';
import { StationFindings } from '../stationFindings';
import { FINISH_TEXT as TEXT } from './text';

const WHOLE = { kind: 'whole' } as const;
/** what the whole can be changed by */
const KINDS_OF_EDIT = [
  'noise',
  'neutral',
  'exposure',
  'zones',
  'saturation',
  'hues',
  'tint',
  'detail',
  'sharpen',
  'glow',
  'vignette',
] as const;
const MORE = ['repair', 'overTime', 'deblur', 'soften', 'veil', 'grain'] as const;

const RATIOS = Object.keys(TEXT.ratios) as CropRatio[];

/** Findings of the finished picture, crop, light, and delivery. Each section follows its own part of the recipe: a slider moves one of them. */
export function FinishPanel() {
  return (
    <>
      <StationFindings station="finish" title={TEXT.name} none={TEXT.none} />
      <FixedCrop />
      <FixedStraighten />
      <EditList at={WHOLE} kinds={KINDS_OF_EDIT} more={MORE} first="exposure" />
      <Combinations at={WHOLE} />
      <FixedDeliver />
    </>
  );
}

function CropSection() {
  const { ratio, upright, hasOwn } = useBench(({ history: { project } }) => ({
    ratio: project.geometry.ratio,
    upright: project.geometry.upright,
    hasOwn: project.geometry.crop !== undefined,
  }));
  const actions = useActions();
  return (
    <Section title={TEXT.crop}>
      <Choice
        label={TEXT.crop}
        value={ratio}
        options={RATIOS.map((value) => ({ value, label: TEXT.ratios[value] }))}
        onChange={(next) =>
          actions.edit(
            `Crop ${TEXT.ratios[next].toLowerCase()}`,
            setGeometry({ ratio: next, crop: undefined }),
          )
        }
      />
      {ratio !== 'free' && ratio !== '1:1' && (
        <Toggle
          label={TEXT.upright}
          value={upright}
          onChange={(next) =>
            actions.edit(
              next ? 'Crop upright' : 'Crop lying',
              setGeometry({ upright: next, crop: undefined }),
            )
          }
        />
      )}
      <Hint>{hasOwn ? TEXT.own : TEXT.isProposed}</Hint>
      {hasOwn && (
        <Button onPress={() => actions.edit('Proposed crop', setGeometry({ crop: undefined }))}>
          {TEXT.proposed}
        </Button>
      )}
    </Section>
  );
}

/** Level and uprights from drawn lines. */
function StraightenSection() {
  const { straighten, tool } = useBench((s) => ({
    straighten: s.history.project.geometry.straighten,
    tool: s.tool,
  }));
  const actions = useActions();
  const take = (wanted: 'level' | 'upright'): void => actions.take(tool === wanted ? undefined : wanted);
  const done = straighten.level ?? straighten.uprights;
  return (
    <Section title={TEXT.straighten}>
      <Row>
        <Button aria-pressed={tool === 'level'} onPress={() => take('level')}>
          {tool === 'level' ? TEXT.drawingLevel : TEXT.level}
        </Button>
        <Button aria-pressed={tool === 'upright'} onPress={() => take('upright')}>
          {tool === 'upright' ? TEXT.drawingUprights : TEXT.uprights}
        </Button>
        {done && (
          <Button
            onPress={() => actions.edit('As it was held', setGeometry({ straighten: {}, crop: undefined }))}
          >
            {TEXT.asHeld}
          </Button>
        )}
      </Row>
      <Hint>
        {straighten.level && `${TEXT.turned} ${formatDegrees((180 / Math.PI) * tiltOf(straighten.level))}. `}
        {straighten.uprights && `${TEXT.tilted} `}
        {TEXT.straightenHint}
      </Hint>
    </Section>
  );
}

const formatDegrees = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}°`;

const KINDS = Object.keys(TEXT.kinds) as DeliveryKind[];

function DeliverSection() {
  const { bench } = useBenchParts();
  const { empty, stopped, radiance } = useBench((s) => {
    const scope = activeScope(s);
    return {
      empty: s.history.project.frames.length === 0,
      // what is being made is waited for; a merge that was stopped is not delivered
      stopped: s.paused && !allMade(s, s.history.project),
      radiance: scope !== undefined && mergedNow(s, scope)?.toneBase !== undefined,
    };
  });
  const [kind, setKind] = useState<DeliveryKind>('png');
  const [quality, setQuality] = useState(92);
  const [disclosed, setDisclosed] = useState(false);
  const [handing, setHanding] = useState(false);
  const hand = async (made: Promise<OutFile | undefined>): Promise<void> => {
    setHanding(true);
    const file = await made;
    setHanding(false);
    if (file) download(file);
  };
  const kinds = KINDS.filter((k) => k !== 'radiance' || radiance);
  const carries = ['png', 'tiff', 'float', 'jpeg'].includes(kind);
  return (
    <Section title={TEXT.deliver}>
      <PickOne
        label={TEXT.as}
        value={kinds.includes(kind) ? kind : 'png'}
        options={kinds.map((value) => ({ value, label: TEXT.kinds[value] }))}
        onChange={setKind}
      />
      {kind === 'jpeg' && (
        <Measure
          label={TEXT.quality}
          value={quality}
          min={40}
          max={100}
          step={1}
          format={String}
          onChange={setQuality}
        />
      )}
      {carries && <Toggle label={TEXT.disclose} value={disclosed} onChange={setDisclosed} />}
      <Button
        data-main
        isDisabled={handing || empty || stopped}
        onPress={() => void hand(deliver(bench, { kind, quality, disclosed }))}
      >
        {TEXT.go}
      </Button>
      <Button isDisabled={handing} onPress={() => void hand(exportProject(bench))}>
        {TEXT.project}
      </Button>
      <Hint>{TEXT.projectHint}</Hint>
    </Section>
  );
}

const FixedCrop = memo(CropSection);
const FixedStraighten = memo(StraightenSection);
const FixedDeliver = memo(DeliverSection);
