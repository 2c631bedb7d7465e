'use client';
import { Aperture } from 'lucide-react';
import { useState } from 'react';
import { Dialog, DialogTrigger, Heading, Popover } from 'react-aria-components';
import { styled } from 'styled-components';
import {
  FIRST_WISH,
  planStandIn,
  planWarnings,
  type StandInPlan,
  type StandInView,
  type StandInWish,
  VIEWS,
} from '@/camera/standIn';
import { useBenchParts } from '@/stations/benchContext';
import { TrayAction } from '@/stations/tray/TrayAction';
import { addFiles } from '@/store/addFiles';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { Toggle } from '@/ui/controls/Toggle';
import { Advice, Hint } from '@/ui/Section';
import { COLOUR } from '@/ui/tokens';
import { STAND_IN_TEXT as TEXT } from './standInText';

const Camera = styled(Dialog)`
  width: 700px;
  max-width: calc(100vw - 40px);
  max-height: inherit;
  box-sizing: border-box;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 14px 16px;
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  outline: none;
  h2 {
    font-size: 14px;
  }
`;

const Controls = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  column-gap: 28px;
  row-gap: 4px;
  align-items: center;
`;

const keysOf = <T extends string>(names: Readonly<Record<T, string>>): { value: T; label: string }[] =>
  (Object.keys(names) as T[]).map((value) => ({ value, label: names[value] }));

/** What a plan starts with, in a view that it can be shot in. */
function startOf(plan: StandInPlan, view: StandInView): Partial<StandInWish> {
  const { focalLength, ...start } = TEXT.starts[plan];
  const seen = plan === 'panorama' ? 'marsh' : view;
  return { plan, ...start, view: seen, focalLength: Math.max(focalLength, VIEWS[seen].shortest) };
}

/** The stand-in camera: a view, a plan, what goes wrong with it, and its frames as a set of this project. */
export function StandInCamera() {
  const { bench } = useBenchParts();
  const [shooting, setShooting] = useState(false);
  const [wish, setWish] = useState<StandInWish>(FIRST_WISH);
  const set = (change: Partial<StandInWish>): void => setWish((w) => ({ ...w, ...change }));
  const { plan } = wish;
  const warnings = planWarnings(wish);
  const shoot = async (close: () => void): Promise<void> => {
    close();
    setShooting(true);
    const shots = planStandIn(wish);
    const made = await bench.actions.during(TEXT.shooting, async (signal, progress) => {
      let done = 0;
      return Promise.all(
        shots.map(async (shot) => {
          const frame = await bench.pool.run((tasks) => tasks.standIn(shot), { signal });
          progress(++done / shots.length);
          return frame;
        }),
      );
    });
    setShooting(false);
    if (!made) return;
    await addFiles(
      bench,
      made.map(({ file, bytes }) => ({ name: file, read: () => Promise.resolve(bytes) })),
    );
    // the next roll is another one
    set({ seed: wish.seed + 1 });
  };
  return (
    <DialogTrigger>
      <Button isDisabled={shooting}>
        <TrayAction icon={Aperture}>{TEXT.open}</TrayAction>
      </Button>
      <Popover placement="top">
        <Camera>
          {({ close }) => (
            <>
              <Heading slot="title" level={2}>
                {TEXT.title}
              </Heading>
              <Hint>{TEXT.what}</Hint>
              <Controls>
                <PickOne
                  label={TEXT.view}
                  value={wish.view}
                  options={keysOf(TEXT.views)}
                  onChange={(view) =>
                    set({ view, focalLength: Math.max(VIEWS[view].shortest, wish.focalLength) })
                  }
                />
                <PickOne
                  label={TEXT.plan}
                  value={plan}
                  options={keysOf(TEXT.plans)}
                  onChange={(next) => set(startOf(next, wish.view))}
                />
                <Measure
                  label={TEXT.frames}
                  value={wish.frames}
                  min={2}
                  max={12}
                  step={1}
                  format={String}
                  onChange={(frames) => set({ frames })}
                />
                {plan === 'panorama' && (
                  <Measure
                    label={TEXT.exposures}
                    value={wish.exposures}
                    min={1}
                    max={5}
                    step={2}
                    format={String}
                    onChange={(exposures) => set({ exposures })}
                  />
                )}
                {(plan === 'bracket' || (plan === 'panorama' && wish.exposures > 1)) && (
                  <Measure
                    label={TEXT.spacing}
                    value={wish.spacing}
                    min={0.5}
                    max={5}
                    step={0.5}
                    format={(v) => `${v} EV`}
                    onChange={(spacing) => set({ spacing })}
                  />
                )}
                {plan === 'panorama' && (
                  <>
                    <Measure
                      label={TEXT.overlap}
                      value={wish.overlap}
                      min={0.05}
                      max={0.7}
                      step={0.05}
                      format={(v) => `${Math.round(100 * v)} %`}
                      onChange={(overlap) => set({ overlap })}
                    />
                    <Measure
                      label={TEXT.slide}
                      value={wish.slide}
                      min={0}
                      max={0.1}
                      step={0.005}
                      format={(v) => `${(100 * v).toFixed(1)} cm`}
                      onChange={(slide) => set({ slide })}
                    />
                  </>
                )}
                <Measure
                  label={TEXT.focal}
                  value={wish.focalLength}
                  min={VIEWS[wish.view].shortest}
                  max={100}
                  step={1}
                  format={(v) => `${v} mm`}
                  onChange={(focalLength) => set({ focalLength })}
                />
                <Measure
                  label={TEXT.aperture}
                  value={wish.aperture}
                  min={2}
                  max={22}
                  step={0.5}
                  format={(v) => `f/${v}`}
                  onChange={(aperture) => set({ aperture })}
                />
                <Measure
                  label={TEXT.shake}
                  value={wish.shake}
                  min={0}
                  max={1}
                  step={0.05}
                  format={(v) => (v === 0 ? TEXT.tripod : `${v.toFixed(2)}°`)}
                  onChange={(shake) => set({ shake })}
                />
                <Measure
                  label={TEXT.hour}
                  value={wish.hour}
                  min={0}
                  max={1}
                  step={0.05}
                  format={(v) => (v < 0.35 ? 'low sun' : v < 0.75 ? 'dusk' : 'dark')}
                  onChange={(hour) => set({ hour })}
                />
                {wish.view !== 'samphire' && (
                  <Toggle label={TEXT.lamps} value={wish.lamps} onChange={(lamps) => set({ lamps })} />
                )}
                {wish.view === 'mill' && (
                  <Toggle label={TEXT.moving} value={wish.moving} onChange={(moving) => set({ moving })} />
                )}
                <PickOne
                  label={TEXT.fault}
                  value={wish.fault}
                  options={keysOf(TEXT.faults)}
                  onChange={(fault) => set({ fault })}
                />
                <Toggle label={TEXT.linear} value={wish.linear} onChange={(linear) => set({ linear })} />
              </Controls>
              {warnings.length > 0 && (
                <Advice>
                  {warnings.map((says) => (
                    <p key={says}>{says}</p>
                  ))}
                </Advice>
              )}
              <Button data-main onPress={() => void shoot(close)}>
                {TEXT.shoot}
              </Button>
            </>
          )}
        </Camera>
      </Popover>
    </DialogTrigger>
  );
}
