'use client';
import { type RepairSettings } from '@/core/edits/repair/repairSettings';
import { type Fact } from '@/core/graph/tile';
import { type FrameAgreement, isFit, showsOther } from '@/core/repair/frameAgreement';
import { type FillOffsets } from '@/core/repair/fillOffsets';
import { addEdit, newEdit } from '@/store/edits/list';
import { type RegionOwner } from '@/store/edits/regions';
import { agreementOf } from '@/store/stages/repairStage';
import { Button } from '@/ui/controls/Button';
import { PickOne } from '@/ui/controls/PickOne';
import { Hint, Row } from '@/ui/Section';
import { useActions, useBench, useBenchParts, useProject } from '../../benchContext';
import { type EditControls } from '../controls';
import { newEditId } from '../editIds';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.repair;
const NAME = EDITS_TEXT.names.repair;

/** Paints what must go, and says what is put there instead, and how well it fits. */
export function RepairControls({ at, id, settings, onChange }: EditControls<'repair'>) {
  const { bench } = useBenchParts();
  const project = useProject();
  const found = useBench((s) => {
    const nodes = bench.shown(s).built?.compiled.repairs.get(id ?? '');
    const known = nodes && agreementOf(s, nodes);
    const fill = bench
      .shown(s)
      .built?.compiled.fills.find((f) => f.mask === nodes?.mask && f.seed === settings.seed);
    const fact = fill && (s.made[fill.fact] as Fact | undefined);
    return {
      isDrawn: nodes !== undefined,
      frames: nodes?.frames.size ?? 0,
      known: known && JSON.stringify(known),
      isFilling: fill !== undefined && !fact,
      isEmpty: fact !== undefined && (fact.value as FillOffsets).width === 0,
    };
  });
  const known = found.known === undefined ? [] : (JSON.parse(found.known) as Agreements);
  const nameOf = (frame: string): string => project.frames.find((f) => f.id === frame)?.file ?? frame;
  const choose = (key: string): void => {
    const from = key === 'around' || key === 'smooth' ? key : 'frame';
    onChange(
      { from, frame: from === 'frame' ? key : '', chosen: true },
      `${NAME}: ${TEXT.instead.toLowerCase()}`,
    );
  };
  return (
    <>
      <PaintButton at={at} id={id} />
      {!found.isDrawn && <Hint>{TEXT.hint}</Hint>}
      {found.isDrawn && (
        <PickOne
          label={TEXT.instead}
          value={settings.from === 'frame' ? settings.frame : settings.from}
          options={[
            ...known.map(({ frame }) => ({ value: frame, label: TEXT.frame(nameOf(frame)) })),
            { value: 'around', label: TEXT.around },
            { value: 'smooth', label: TEXT.smooth },
          ]}
          onChange={choose}
        />
      )}
      {found.isDrawn && <Hint aria-live="polite">{saysOf(settings, known, found, nameOf)}</Hint>}
      {found.isDrawn && settings.from === 'around' && <Around settings={settings} onChange={onChange} />}
      {found.isDrawn && settings.chosen && (
        <Row>
          <Button onPress={() => onChange({ chosen: false }, `${NAME}: ${TEXT.byMarsh.toLowerCase()}`)}>
            {TEXT.byMarsh}
          </Button>
        </Row>
      )}
    </>
  );
}

type Agreements = NonNullable<ReturnType<typeof agreementOf>>;

interface FoundState {
  readonly frames: number;
  readonly known: string | undefined;
  readonly isFilling: boolean;
  readonly isEmpty: boolean;
}

/** What is put there, how well it fits, and what is wrong with it. */
function saysOf(
  { from, frame, chosen }: RepairSettings,
  known: Agreements,
  { frames, known: measured, isFilling, isEmpty }: FoundState,
  nameOf: (frame: string) => string,
): string {
  if (frames > 0 && measured === undefined) return TEXT.measuring;
  if (from === 'frame') {
    const own = known.find((k) => k.frame === frame)?.agreement;
    if (!own) return TEXT.measuring;
    return isFit(own) ? TEXT.fits(nameOf(frame), own.about) : faultsOf(own).join(' ');
  }
  if (from === 'smooth') return '';
  if (isFilling) return TEXT.filling;
  if (isEmpty) return TEXT.empty;
  if (chosen) return '';
  return frames === 0 ? TEXT.alone : TEXT.none;
}

function faultsOf(agreement: FrameAgreement): string[] {
  const { about, missing, clipped } = agreement;
  return [
    ...(missing > 0.005 ? [TEXT.misses(missing)] : []),
    ...(clipped > 0.005 ? [TEXT.clips(clipped)] : []),
    ...(showsOther(agreement) ? [] : [TEXT.same]),
    TEXT.doubtful(about),
  ];
}

/** Takes the brush in hand for what must go; the repair is there from then on. */
function PaintButton({ at, id }: Pick<EditControls<'repair'>, 'at'> & { readonly id: string | undefined }) {
  const actions = useActions();
  const own = id ?? newEditId(at, 'repair');
  const owner: RegionOwner = { kind: 'edit', at, edit: own };
  const inHand = useBench(
    (s) => s.tool === 'brush' && s.drawing?.owner.kind === 'edit' && s.drawing.owner.edit === own,
  );
  return (
    <Button
      data-main=""
      aria-pressed={inHand}
      onPress={() => {
        if (inHand) return actions.take(undefined);
        if (id === undefined) actions.edit(NAME, addEdit(at, newEdit(own, 'repair')));
        actions.take('brush', { owner, part: -1 });
      }}
    >
      {inHand ? TEXT.painting : TEXT.paint}
    </Button>
  );
}

/** Which pieces are taken from around it. */
function Around({ settings, onChange }: Omit<EditControls<'repair'>, 'at'>) {
  const { regions } = useProject();
  return (
    <Row>
      <Button
        onPress={() =>
          onChange(
            { seed: (settings.seed + 1) % 1000, chosen: true },
            `${NAME}: ${TEXT.another.toLowerCase()}`,
          )
        }
      >
        {TEXT.another}
      </Button>
      {regions.length > 0 && (
        <PickOne
          label={TEXT.from}
          value={settings.within}
          options={[
            { value: '', label: TEXT.anywhere },
            ...regions.map((r) => ({ value: r.id, label: r.name })),
          ]}
          onChange={(within) => onChange({ within, chosen: true }, `${NAME}: ${TEXT.from.toLowerCase()}`)}
        />
      )}
    </Row>
  );
}
