'use client';
import { useEffect, useRef } from 'react';
import { type View } from '@/core/view/viewScene';
import { type BeforeStep } from '@/store/session';
import { useActions, useBench, useBenchParts, useScene } from '../benchContext';
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
          <StepPicture
            view={step === 'now' ? { kind: 'finished' } : { kind: 'before', step, finished: true }}
          />
        </PictureCard>
      ))}
    </PictureCards>
  );
}

const WIDTH = 256;
const PAUSE_MS = 250;

function StepPicture({ view }: { view: View }) {
  const { viewer } = useBenchParts();
  const scene = useScene();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { kind } = view;
  const step = view.kind === 'before' ? view.step : undefined;
  useEffect(() => {
    if (!scene?.merge) return;
    const controller = new AbortController();
    const level = Math.max(0, Math.ceil(Math.log2(scene.width / WIDTH)));
    const area = { x: 0, y: 0, width: scene.width >> level, height: scene.height >> level };
    const shown: View = step ? { kind: 'before', step, finished: true } : { kind: 'finished' };
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.view(scene, shown, level, area), { signal: controller.signal, priority: -3 })
        .then((rgba) => {
          const context = canvas.current?.getContext('2d');
          if (!canvas.current || !context) return;
          canvas.current.width = area.width;
          canvas.current.height = area.height;
          context.putImageData(new ImageData(new Uint8ClampedArray(rgba), area.width, area.height), 0, 0);
        })
        .catch(() => undefined);
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [scene, viewer, kind, step]);
  return <canvas ref={canvas} aria-hidden />;
}
