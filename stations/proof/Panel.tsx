'use client';
import { transform } from '@/core/raster/matrix3';
import { straightenOf } from '@/core/recipe/cropOf';
import { addWatchPoint, setPrintRegion } from '@/store/edits/geometry';
import { STATIONS } from '@/store/session';
import { type ShownFinding, stationFindings } from '@/store/stationFindings';
import { Button } from '@/ui/controls/Button';
import { Advice, Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts, useFindingSource, useScope } from '../benchContext';
import { looksOf } from '../looks';
import { StationFindings } from '../stationFindings';
import { FreshEyes } from './FreshEyes';
import { PROOF_TEXT as TEXT } from './text';

/** Findings of the whole picture, whether it is ready, the print region, watch points. */
export function ProofPanel() {
  const state = useFindingSource();
  const findings = stationFindings(state, 'proof');
  return (
    <>
      {findings && <Verdict findings={findings} />}
      <StationFindings station="proof" title={TEXT.name} none={TEXT.none} />
      <FreshEyes />
      <PrintSection />
      <PinSection findings={findings ?? []} />
    </>
  );
}

function Verdict({ findings }: { findings: readonly ShownFinding[] }) {
  const { showPlace } = useBenchParts();
  const actions = useActions();
  const kind = useScope()?.set.kind ?? 'bracket';
  const failed = findings.filter((f) => f.verdict === 'fail');
  const watched = findings.filter((f) => f.verdict === 'watch');
  const worst = failed.length > 0 ? failed : watched;
  const first = worst.find((f) => f.where) ?? worst[0];
  // what has no place is mended where it was found
  const station = STATIONS.find((s) => s !== 'proof' && first?.id.startsWith(`${s}.`));
  const goThere = (): void => {
    if (first?.where) showPlace(first.where, first.frame);
    else if (station) actions.go({ station, look: looksOf(station, kind)[0] });
  };
  return (
    <Section title={TEXT.verdict}>
      <Advice>
        {failed.length > 0
          ? TEXT.fail(failed.length)
          : watched.length > 0
            ? TEXT.watch(watched.length)
            : TEXT.ready}
        {(first?.where ?? station) && (
          <Button data-main onPress={goThere}>
            {TEXT.first}
          </Button>
        )}
      </Advice>
    </Section>
  );
}

function PrintSection() {
  const { region, inHand } = useBench((s) => ({
    region: s.history.project.printRegion,
    inHand: s.tool === 'print',
  }));
  const actions = useActions();
  return (
    <Section title={TEXT.print}>
      <Row>
        <Button aria-pressed={inHand} onPress={() => actions.take(inHand ? undefined : 'print')}>
          {inHand ? TEXT.drawing : TEXT.drawPrint}
        </Button>
        {region && (
          <Button onPress={() => actions.edit('Whole picture must print', setPrintRegion(undefined))}>
            {TEXT.wholePrint}
          </Button>
        )}
      </Row>
      <Hint>{TEXT.printHint}</Hint>
    </Section>
  );
}

const MOST = 6;

function PinSection({ findings }: { findings: readonly ShownFinding[] }) {
  const { inHand, project } = useBench((s) => ({ inHand: s.tool === 'watch', project: s.history.project }));
  const straighten = straightenOf(project);
  const actions = useActions();
  const placed = findings.filter((f) => f.where && f.verdict !== 'pass').slice(0, MOST);
  const pinAll = (): void => {
    const gesture = `pin ${Date.now()}`;
    for (const { where } of placed)
      if (where)
        actions.edit(
          'Pinned the findings',
          addWatchPoint(
            crypto.randomUUID(),
            ...transform(straighten, where.x + where.width / 2, where.y + where.height / 2),
          ),
          gesture,
        );
  };
  return (
    <Section title={TEXT.pins}>
      <Row>
        <Button aria-pressed={inHand} onPress={() => actions.take(inHand ? undefined : 'watch')}>
          {inHand ? TEXT.pinning : TEXT.pin}
        </Button>
        <Button isDisabled={placed.length === 0} onPress={pinAll}>
          {TEXT.pinFindings}
        </Button>
      </Row>
      <Hint>{TEXT.pinHint}</Hint>
    </Section>
  );
}
