'use client';
import {
  type PointerEvent,
  type ReactNode,
  useCallback,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
} from 'react';
import { styled } from 'styled-components';
import { type Rectangle } from '@/core/raster/raster';
import { holdsView } from '@/core/view/holdsView';
import { type View } from '@/core/view/viewScene';
import { COLOUR, focusRing } from '../tokens';
import { useFollowed } from '../useFollowed';
import { drawTable } from './drawTable';
import { type RenderArea, sheetLoader } from './sheetLoader';
import { type SceneSource } from './sceneSource';
import { fitAll, panBy, type Size, toPicture, type Viewport, visibleArea, zoomAbout } from './viewport';
import { useKeyPointer } from './useKeyPointer';
import { type Tool, type ToolPoint } from './tool';

const Surface = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
  background: ${COLOUR.table};
  touch-action: none;
  cursor: grab;
  &[data-tool] {
    cursor: none;
  }
  &:active:not([data-tool]) {
    cursor: grabbing;
  }
  &:focus-visible {
    ${focusRing}
    outline-offset: -3px;
    outline-color: #fff;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
`;

/** Where the keys have brought the pointer. */
const KeyCross = styled.span`
  position: absolute;
  width: 17px;
  height: 17px;
  margin: -8px 0 0 -8px;
  pointer-events: none;
  background:
    linear-gradient(#fff, #fff) center / 1.5px 100% no-repeat,
    linear-gradient(#fff, #fff) center / 100% 1.5px no-repeat;
  filter: drop-shadow(0 0 1px #000);
`;

/** luminance of linear sRGB (IEC 61966-2-1) in every channel */
const LUMINANCE = `${'0.2126 0.7152 0.0722 0 0 '.repeat(3)}0 0 0 1 0`;

/** How the second view joins the first. */
export type Pairing = { readonly kind: 'blink' } | { readonly kind: 'wipe'; readonly at: number };

export interface TableProps {
  readonly label: string;
  readonly source: SceneSource;
  /** size of what the views show; the scene's own when left out */
  readonly extent?: Size;
  readonly view: View;
  /** a second view that is blinked or wiped against the first */
  readonly other?: View;
  readonly pairing?: Pairing;
  /** pixels outside are drawn as table */
  readonly crop?: Rectangle;
  /** whether it is drawn in greys: how light each place is, its luminance in linear light */
  readonly greys?: boolean;
  readonly viewport: Viewport | undefined;
  readonly onViewport: (viewport: Viewport | undefined) => void;
  readonly render: RenderArea;
  /** what is in sight could not be rendered */
  readonly onFailure?: (thrown: unknown) => void;
  readonly tool?: Tool;
  /** the table has another size now, screen pixels */
  readonly onSize?: (size: Size) => void;
  readonly onPoint?: (point: { x: number; y: number } | undefined) => void;
  readonly overlay?: (viewport: Viewport, table: Size) => ReactNode;
}

const BLINK_MS = 550;

/** Only the size of a scene places it on the table: its pixels come and go without the rest. */
function useSceneSize(source: SceneSource, side: 'width' | 'height'): number | undefined {
  return useFollowed(source, ({ scene }) => scene?.[side]);
}

/** The picture on neutral grey: wheel or pinch zooms about the pointer, dragging pans, arrows pan, + and − zoom. */
export function Table(props: TableProps) {
  const { source, extent, view, other, pairing, crop, onViewport, render, onFailure, tool, onPoint, onSize } =
    props;
  const sceneWidth = useSceneSize(source, 'width');
  const sceneHeight = useSceneSize(source, 'height');
  const surface = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const filter = useId();
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  const [second, setSecond] = useState(false);
  const loaders = useMemo(
    () => [sheetLoader(render, onFailure), sheetLoader(render, onFailure)] as const,
    [render, onFailure],
  );
  const picture = useMemo<Size>(
    () => ({
      width: extent?.width ?? sceneWidth ?? 1,
      height: extent?.height ?? sceneHeight ?? 1,
    }),
    [extent?.width, extent?.height, sceneWidth, sceneHeight],
  );
  const own = props.viewport;
  const viewport = useMemo(() => own ?? fitAll(picture, size), [own, picture, size]);

  useEffect(() => {
    const element = surface.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const measured = { width: entry.contentRect.width, height: entry.contentRect.height };
      setSize(measured);
      onSize?.(measured);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [onSize]);

  const ask = useCallback((): void => {
    const now = source.get();
    const seen =
      now.scene && size.width > 0 ? visibleArea(viewport, picture, size, window.devicePixelRatio) : undefined;
    // a view of the recipe before waits for the one that follows the scene
    const held = (v: View): boolean => !now.scene || holdsView(now.scene, v);
    if (held(view)) loaders[0].want(now.scene && seen && { ...now, scene: now.scene, view, ...seen });
    if (!other || held(other))
      loaders[1].want(now.scene && seen && other && { scene: now.scene, view: other, ...seen });
  }, [loaders, source, view, other, viewport, picture, size]);
  useEffect(ask, [ask, sceneWidth, sceneHeight]);
  useEffect(
    () =>
      source.subscribe(() => {
        const next = source.get().scene;
        // a scene of another size waits for the rest of the screen
        if (next?.width === sceneWidth && next?.height === sceneHeight) ask();
      }),
    [source, ask, sceneWidth, sceneHeight],
  );

  useEffect(() => {
    if (pairing?.kind !== 'blink') return;
    const timer = setInterval(() => setSecond((s) => !s), BLINK_MS);
    return () => clearInterval(timer);
  }, [pairing?.kind]);

  useEffect(() => {
    const draw = (part?: Rectangle): void => {
      const element = canvas.current;
      if (!element || size.width === 0) return;
      const ratio = window.devicePixelRatio;
      const [w, h] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
      // setting a size clears and allocates, even when it is the same
      const isCleared = element.width !== w || element.height !== h;
      if (element.width !== w) element.width = w;
      if (element.height !== h) element.height = h;
      const context = element.getContext('2d', { alpha: false });
      if (!context) return;
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      const [first, next] = [loaders[0].sheets(), loaders[1].sheets()];
      const blink = pairing?.kind === 'blink' && second;
      const only = pairing || isCleared ? undefined : part;
      drawTable(context, size, viewport, picture, blink ? next : first, crop, undefined, only);
      if (pairing?.kind === 'wipe') drawTable(context, size, viewport, picture, next, crop, pairing.at);
    };
    const show = (part?: Rectangle): void => {
      draw(part);
      source.onShown?.();
    };
    for (const loader of loaders) loader.follow(show);
    draw();
  }, [size, viewport, picture, loaders, pairing, second, crop, source]);

  const fingers = useRef(new Map<number, [number, number]>());
  /** whether one of two fingers was lifted, and the other not yet */
  const lifting = useRef(false);
  /** the kind of pointer that draws */
  const drawing = useRef<string>(undefined);
  const position = useCallback((event: { clientX: number; clientY: number }): [number, number] => {
    const box = surface.current?.getBoundingClientRect();
    return box ? [event.clientX - box.left, event.clientY - box.top] : [0, 0];
  }, []);

  useEffect(() => {
    const element = surface.current;
    if (!element) return;
    // React's wheel listener is passive; the page must not scroll or zoom with the picture
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const [x, y] = position(event);
      onViewport(
        zoomAbout(viewport, picture, size, x, y, Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.0016))),
      );
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [viewport, picture, size, onViewport, position]);

  const sample = (event: {
    clientX: number;
    clientY: number;
    pressure: number;
    pointerType: string;
    shiftKey: boolean;
  }): ToolPoint => {
    const [x, y] = toPicture(viewport, size, ...position(event));
    // a mouse reports half or no pressure
    return { x, y, pressure: event.pointerType === 'pen' ? event.pressure : 1, straight: event.shiftKey };
  };

  const onDown = (event: PointerEvent<HTMLDivElement>): void => {
    // a hand that rests on the table while the pen draws
    if (drawing.current === 'pen' && event.pointerType === 'touch') return;
    // or that lay there before it came
    if (event.pointerType === 'pen' && fingers.current.size > 0) {
      fingers.current.clear();
      if (drawing.current) (tool?.onCancel ?? tool?.onEnd)?.();
      drawing.current = undefined;
    }
    surface.current?.setPointerCapture(event.pointerId);
    fingers.current.set(event.pointerId, position(event));
    if (tool && event.button === 0 && fingers.current.size === 1) {
      drawing.current = event.pointerType;
      tool.onStart(sample(event));
    } else if (drawing.current && fingers.current.size === 2) {
      // one finger draws, two move the picture
      drawing.current = undefined;
      (tool?.onCancel ?? tool?.onEnd)?.();
    }
  };
  const onMove = (event: PointerEvent<HTMLDivElement>): void => {
    const [x, y] = position(event);
    const [px, py] = toPicture(viewport, size, x, y);
    onPoint?.({ x: px, y: py });
    const before = fingers.current.get(event.pointerId);
    if (!before) return;
    if (drawing.current && tool) {
      const events = event.nativeEvent.getCoalescedEvents?.() ?? [];
      tool.onMove((events.length > 0 ? events : [event.nativeEvent]).map(sample));
    } else if (fingers.current.size === 2) {
      const still = [...fingers.current].find(([id]) => id !== event.pointerId)?.[1] ?? before;
      const factor =
        Math.hypot(x - still[0], y - still[1]) /
        Math.max(1, Math.hypot(before[0] - still[0], before[1] - still[1]));
      // the middle between them moves half as far as one of them does
      const moved = panBy(viewport, picture, (x - before[0]) / 2, (y - before[1]) / 2);
      onViewport(zoomAbout(moved, picture, size, (x + still[0]) / 2, (y + still[1]) / 2, factor));
    } else if (!lifting.current) onViewport(panBy(viewport, picture, x - before[0], y - before[1]));
    fingers.current.set(event.pointerId, [x, y]);
  };
  const onUp = (event: PointerEvent<HTMLDivElement>): void => {
    const isOne = fingers.current.delete(event.pointerId);
    // the finger that is lifted last does not move what two have placed
    lifting.current = fingers.current.size > 0;
    if (drawing.current && isOne) {
      drawing.current = undefined;
      tool?.onEnd();
    }
  };

  const byKeys = useKeyPointer(tool, viewport, size, onPoint);

  return (
    <Surface
      ref={surface}
      role="application"
      aria-label={props.label}
      tabIndex={0}
      data-tool={tool ? '' : undefined}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onPointerLeave={() => onPoint?.(undefined)}
      onKeyDown={(event) => {
        if (tool && byKeys.onKey(event)) return;
        const pan = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] }[
          event.key
        ];
        const factor = { '+': 1.25, '=': 1.25, '-': 0.8 }[event.key];
        if (pan) onViewport(panBy(viewport, picture, pan[0], pan[1]));
        else if (factor)
          onViewport(zoomAbout(viewport, picture, size, size.width / 2, size.height / 2, factor));
        else return;
        event.preventDefault();
      }}
    >
      {props.greys && (
        <svg width="0" height="0" aria-hidden>
          <filter id={filter} colorInterpolationFilters="linearRGB">
            <feColorMatrix values={LUMINANCE} />
          </filter>
        </svg>
      )}
      <canvas ref={canvas} style={props.greys ? { filter: `url("#${filter}")` } : undefined} />
      {size.width > 0 && props.overlay?.(viewport, size)}
      {tool && byKeys.at && <KeyCross style={{ left: byKeys.at[0], top: byKeys.at[1] }} aria-hidden />}
    </Surface>
  );
}
