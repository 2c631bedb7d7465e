'use client';
import { useMemo, useState } from 'react';
import { type CropRatio } from '@/core/finish/finish';
import { toneShares } from '@/core/finish/toneShares';
import { setFinish } from '@/store/edits';
import { deliver, type Delivery, exportProject, type OutFile } from '@/store/deliver';
import { loadOriginal } from '@/store/database';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { ToneChart } from '@/ui/chart/ToneChart';
import { formatStops } from '@/ui/formatFinding';
import { Hint, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { download } from '../download';
import { StationFindings } from '../stationFindings';
import { FINISH_TEXT as TEXT } from './text';

const RATIOS = Object.keys(TEXT.ratios) as CropRatio[];

/** Findings of the finished picture, crop, light, and delivery. */
export function FinishPanel() {
  const { finish, finished } = useBench((s) => ({ finish: s.history.project.finish, finished: s.finished }));
  const actions = useActions();
  const tones = useMemo(() => finished && toneShares(finished.image), [finished]);
  return (
    <>
      <StationFindings station="finish" title={TEXT.name} none={TEXT.none} />
      <Section title={TEXT.crop}>
        <Choice
          label={TEXT.crop}
          value={finish.ratio}
          options={RATIOS.map((value) => ({ value, label: TEXT.ratios[value] }))}
          onChange={(ratio) =>
            actions.edit(`Crop ${TEXT.ratios[ratio].toLowerCase()}`, setFinish({ ratio, crop: undefined }))
          }
        />
        {finish.ratio !== 'free' && finish.ratio !== '1:1' && (
          <Toggle
            label={TEXT.upright}
            value={finish.upright}
            onChange={(upright) =>
              actions.edit(upright ? 'Crop upright' : 'Crop lying', setFinish({ upright, crop: undefined }))
            }
          />
        )}
        <Hint>{finish.crop ? TEXT.own : TEXT.isProposed}</Hint>
        {finish.crop && (
          <Button onPress={() => actions.edit('Proposed crop', setFinish({ crop: undefined }))}>
            {TEXT.proposed}
          </Button>
        )}
      </Section>
      <Section title={TEXT.light}>
        <Measure
          label={TEXT.exposure}
          value={finish.exposure}
          min={-3}
          max={3}
          step={0.05}
          neutral={0}
          format={(v) => formatStops(v, 2)}
          onChange={(exposure) => actions.edit('Exposure', setFinish({ exposure }), 'exposure')}
        />
        {tones && <ToneChart label={TEXT.tones} shares={tones.shares} first={tones.first} />}
        <Hint>{TEXT.tones}</Hint>
      </Section>
      <DeliverSection />
    </>
  );
}

function DeliverSection() {
  const { bench } = useBenchParts();
  const { busy, ready } = useBench((s) => ({ busy: s.work !== undefined, ready: s.merged !== undefined }));
  const [kind, setKind] = useState<Delivery['kind']>('png');
  const [quality, setQuality] = useState(92);
  const hand = async (made: Promise<OutFile | undefined>): Promise<void> => {
    const file = await made;
    if (file) download(file);
  };
  return (
    <Section title={TEXT.deliver}>
      <Choice
        label={TEXT.deliver}
        value={kind}
        options={[
          { value: 'png', label: TEXT.kinds.png },
          { value: 'jpeg', label: TEXT.kinds.jpeg },
        ]}
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
      <Button
        data-main
        isDisabled={busy || !ready}
        onPress={() => void hand(deliver(bench, kind === 'png' ? { kind } : { kind, quality }))}
      >
        {TEXT.go}
      </Button>
      <Button isDisabled={busy} onPress={() => void hand(exportProject(bench, loadOriginal))}>
        {TEXT.project}
      </Button>
      <Hint>{TEXT.projectHint}</Hint>
    </Section>
  );
}
