'use client';
import { X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { IDENTITY, invert, transform } from '@/core/raster/matrix3';
import { straightenOf } from '@/core/recipe/cropOf';
import { type WatchPoint } from '@/core/recipe/project';
import { sceneForView } from '@/core/view/sceneForView';
import { type View } from '@/core/view/viewScene';
import { removeWatchPoint } from '@/store/edits/geometry';
import { showStill } from '@/ui/showStill';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts, useScene } from '../benchContext';

const Strip = styled.section`
  display: grid;
  grid-template-columns: repeat(3, 84px);
  grid-auto-rows: 74px;
  gap: 6px;
  padding: 8px 10px 0;
  border-left: 1px solid ${COLOUR.line};
  overflow-y: auto;
  li {
    position: relative;
    list-style: none;
  }
`;

const Loupe = styled(Button)`
  display: block;
  padding: 0;
  border: 1px solid ${COLOUR.control};
  background: ${COLOUR.table};
  cursor: default;
  canvas {
    display: block;
    width: 82px;
    height: 72px;
    image-rendering: pixelated;
  }
  span {
    position: absolute;
    left: 3px;
    bottom: 3px;
    padding: 0 3px;
    background: ${COLOUR.raised};
    font: 10px ${FONT.number};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const Remove = styled(Button)`
  position: absolute;
  top: 2px;
  right: 2px;
  width: 18px;
  height: 18px;
  padding: 2px;
  border: 0;
  background: ${COLOUR.raised};
  svg {
    display: block;
    width: 14px;
    height: 14px;
  }
  @media (pointer: coarse) {
    width: 30px;
    height: 30px;
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

/** Pinned places at 1:1, live while anything changes. */
export function WatchPoints({ finished }: { finished: boolean }) {
  const points = useBench((s) => s.history.project.watchPoints);
  // points lie on the reference; the finished picture shows them where straightening has put them
  const back = useBench((s) => (finished ? invert(straightenOf(s.history.project)) : IDENTITY));
  const shownAt = (point: WatchPoint): WatchPoint => {
    const [x, y] = transform(back, point.x, point.y);
    return { ...point, x, y };
  };
  const { showPlace } = useBenchParts();
  const actions = useActions();
  if (points.length === 0) return null;
  return (
    <Strip aria-label="Watch points" as="ul">
      {points.map(shownAt).map((point, i) => (
        <li key={point.id}>
          <Loupe
            aria-label={`Watch point ${i + 1}, go there`}
            onPress={() => showPlace({ x: point.x - 41, y: point.y - 36, width: 82, height: 72 })}
          >
            <LoupePicture point={point} finished={finished} />
            <span aria-hidden>{i + 1}</span>
          </Loupe>
          <Remove
            aria-label={`Take watch point ${i + 1} away`}
            onPress={() => actions.edit('Took a watch point away', removeWatchPoint(point.id))}
          >
            <X aria-hidden />
          </Remove>
        </li>
      ))}
    </Strip>
  );
}

function LoupePicture({ point, finished }: { point: WatchPoint; finished: boolean }) {
  const { viewer } = useBenchParts();
  const scene = useScene();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { x, y } = point;
  useEffect(() => {
    if (!scene) return;
    const controller = new AbortController();
    const ratio = window.devicePixelRatio;
    const [width, height] = [Math.round(82 * ratio), Math.round(72 * ratio)];
    const area = { x: Math.round(x - width / 2), y: Math.round(y - height / 2), width, height };
    const view: View = scene.picture
      ? { kind: finished ? 'finished' : 'result' }
      : { kind: 'reference', finished: false };
    const own = sceneForView(scene, view);
    viewer
      .run((tasks) => tasks.view(own, view, 0, area, 'loupe'), { signal: controller.signal, priority: -1 })
      .then((rgba) => showStill(canvas.current, new Uint8ClampedArray(rgba), width, height))
      .catch(() => undefined);
    return () => controller.abort();
  }, [scene, viewer, x, y, finished]);
  return <canvas ref={canvas} aria-hidden />;
}
