'use client';
import { useEffect, useRef } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type View } from '@/core/view/viewScene';
import { type BeforeStep } from '@/store/session';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts, useScene } from '../benchContext';

const Strip = styled.div`
  height: 100%;
  padding: 7px 14px 0;
  min-width: 0;
`;

const Heading = styled.h2`
  font-size: 13px;
  font-weight: 600;
  margin-bottom: 3px;
`;

const Cards = styled.ol`
  display: flex;
  gap: 10px;
  overflow-x: auto;
  padding: 3px;
`;

const Card = styled(Button)`
  display: block;
  width: 128px;
  flex: none;
  padding: 0 0 4px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    display: block;
    width: 100%;
    height: 84px;
    object-fit: cover;
    background: ${COLOUR.table};
  }
  &[aria-pressed='true'] {
    border-color: ${COLOUR.act};
    box-shadow: 0 0 0 2px ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 3px;
  }
  b {
    display: block;
    padding: 4px 8px 0;
    font-weight: 600;
    font-size: 12px;
  }
  small {
    display: block;
    padding: 0 8px;
    font: 10.5px/1.4 ${FONT.number};
    color: ${COLOUR.quiet};
  }
`;

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
    <Strip>
      <Heading>Before and after</Heading>
      <Cards>
        {STEPS.map(({ step, name, note }) => {
          const pressed =
            step === 'now' ? session.look !== 'before' : session.look === 'before' && session.before === step;
          return (
            <li key={step}>
              <Card
                aria-pressed={pressed}
                onPress={() =>
                  actions.go(step === 'now' ? { look: 'finished' } : { look: 'before', before: step })
                }
              >
                <StepPicture
                  view={step === 'now' ? { kind: 'finished' } : { kind: 'before', step, finished: true }}
                />
                <b>{name}</b>
                <small>{note}</small>
              </Card>
            </li>
          );
        })}
      </Cards>
    </Strip>
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
