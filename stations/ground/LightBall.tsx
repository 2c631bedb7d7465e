'use client';
import { useLayoutEffect, useRef } from 'react';
import { styled } from 'styled-components';
import { type LightRig } from '@/core/ground/light';
import { shadedBall } from '@/core/ground/shadedBall';
import { showStill } from '@/ui/showStill';
import { COLOUR } from '@/ui/tokens';

const SIZE = 72;

/** A white ball in a light: what the numbers of the light look like. */
export function LightBall({ rig, label }: { readonly rig: LightRig; readonly label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => void showStill(canvas.current, shadedBall(rig, SIZE), SIZE, SIZE), [rig]);
  return (
    <Ball>
      <canvas ref={canvas} width={SIZE} height={SIZE} role="img" aria-label={label} />
      <figcaption aria-hidden>{label}</figcaption>
    </Ball>
  );
}

const Ball = styled.figure`
  display: grid;
  justify-items: center;
  gap: 3px;
  margin: 0;
  min-width: 0;
  canvas {
    width: 54px;
    height: 54px;
  }
  figcaption {
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-size: 11px;
    color: ${COLOUR.quiet};
  }
`;
