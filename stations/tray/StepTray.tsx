'use client';
import { useEffect, useRef } from 'react';
import { sceneForView } from '@/core/view/sceneForView';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { type BenchState } from '@/store/benchState';
import { buildPicture, pictureScene } from '@/store/buildScene';
import { type BeforeStep } from '@/store/session';
import { withoutStep } from '@/store/variants';
import { useActions, useBench, useBenchParts, useScene } from '../benchContext';
import { showStill } from '@/ui/showStill';
import { PictureCard, PictureCards } from './PictureCards';

const STEPS: readonly { readonly step: BeforeStep | 'now'; readonly name: string; readonly note: string }[] =
  [
    { step: 'fit', name: 'As shot', note: 'the reference' },
    { step: 'layers', name: 'Merged', note: 'before layers' },
    { step: 'match', name: 'Layered', note: 'before matching' },
    { step: 'finish', name: 'Matched', note: 'before finish' },
    { step: 'now', name: 'Now', note: 'as delivered' },
  ];

/** The picture after every step; choosing one lays it beside the present one. */
export function StepTray() {
  const { session } = useBench((s) => ({ session: s.session }));
  const actions = useActions();
  return (
    <PictureCards title="Before and after">
      {STEPS.map(({ step, name, note }) => (
        <PictureCard
          key={step}
          name={name}
          note={note}
          pressed={
            step === 'now' ? session.look !== 'before' : session.look === 'before' && session.before === step
          }
          onPress={() => actions.go(step === 'now' ? { look: 'finished' } : { look: 'before', before: step })}
        >
          <StepPicture step={step} />
        </PictureCard>
      ))}
    </PictureCards>
  );
}

const WIDTH = 256;
const PAUSE_MS = 250;

/** The picture before a step, or as it is now, small. */
function StepPicture({ step }: { readonly step: BeforeStep | 'now' }) {
  const { viewer, bench } = useBenchParts();
  const scene = useScene();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!scene?.picture) return;
    const controller = new AbortController();
    const level = Math.max(0, Math.ceil(Math.log2(scene.width / WIDTH)));
    const area = { x: 0, y: 0, width: scene.width >> level, height: scene.height >> level };
    const timer = setTimeout(() => {
      const earlier = pictureBefore(bench.store.getState(), scene, step);
      if (!earlier) return;
      viewer
        .run((tasks) => tasks.view(earlier.scene, earlier.view, level, area, `step ${step}`), {
          signal: controller.signal,
          priority: -3,
        })
        .then((rgba) => showStill(canvas.current, new Uint8ClampedArray(rgba), area.width, area.height))
        .catch(() => undefined);
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [scene, bench, viewer, step]);
  return <canvas ref={canvas} aria-hidden />;
}

/** The picture without the work of a step, finished as far as it then was. */
function pictureBefore(
  state: BenchState,
  scene: ViewScene,
  step: BeforeStep | 'now',
): { readonly scene: ViewScene; readonly view: View } | undefined {
  if (step === 'fit' || step === 'edit' || step === 'then') {
    const view: View = { kind: 'reference', finished: true };
    return { scene, view };
  }
  const { project } = state.history;
  const built = buildPicture(state, step === 'now' ? project : withoutStep(project, step));
  const picture = built && pictureScene(built);
  return (
    picture && {
      scene: sceneForView({ ...scene, picture }, { kind: 'finished' }),
      view: { kind: 'finished' },
    }
  );
}
