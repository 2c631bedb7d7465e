'use client';
import { styled } from 'styled-components';
import { fieldOfView } from '@/camera/lens';
import { panoramaOf } from '@/core/recipe/setFrames';
import { COLOUR, FONT } from '@/ui/tokens';
import { setOther } from '@/store/edits/sets';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Section } from '@/ui/Section';
import { useActions, useFrames, useScope } from '../benchContext';
import { FIT_TEXT as TEXT } from './text';

const Pairs = styled.table`
  width: 100%;
  border-collapse: collapse;
  font: 12px ${FONT.number};
  th {
    font-weight: 400;
    color: ${COLOUR.quiet};
    text-align: right;
    padding: 2px 0;
  }
  td {
    text-align: right;
    padding: 3px 0;
    border-top: 1px solid ${COLOUR.line};
  }
  th:first-child,
  td:first-child {
    text-align: left;
  }
`;

/** How neighbouring frames of a panorama agree, and the lens that was found. */
export function PairsSection() {
  const scope = useScope();
  const panorama = scope && panoramaOf(scope);
  const actions = useActions();
  const frames = useFrames();
  if (!scope || !panorama) return null;
  const { id, other } = scope.set;
  const { bend } = other;
  const { lens, pairs } = panorama.fit;
  const numberOf = (i: number): string => {
    const entry = frames.find((f) => f.frame.id === panorama.frames[i]);
    return entry ? entry.name.replace('Frame ', '') : '?';
  };
  return (
    <Section title={TEXT.pairs}>
      <Pairs>
        <thead>
          <tr>
            <th scope="col">{TEXT.frames}</th>
            <th scope="col">{TEXT.overlap}</th>
            <th scope="col">{TEXT.matches}</th>
            <th scope="col">{TEXT.off}</th>
            <th scope="col">{TEXT.parallax}</th>
          </tr>
        </thead>
        <tbody>
          {pairs.map((p) => (
            <tr key={`${p.a}-${p.b}`}>
              <td>
                {numberOf(p.a)} – {numberOf(p.b)}
              </td>
              <td>{Math.round(100 * p.overlap)} %</td>
              <td>{p.agreeing}</td>
              <td>{p.residual.toFixed(2)}</td>
              <td>{p.parallax.toFixed(2)}</td>
            </tr>
          ))}
        </tbody>
      </Pairs>
      <Hint>
        {TEXT.lens} {Math.round(lens.focalPx)} px: one frame spans{' '}
        {fieldOfView(lens.focalPx, lens.width).toFixed(1)}° by{' '}
        {fieldOfView(lens.focalPx, lens.height).toFixed(1)}°.
        {bend && ` ${TEXT.bends} ${(100 * lens.k1).toFixed(2)} %.`}
      </Hint>
      <Toggle
        label={TEXT.bend}
        value={bend}
        onChange={(on) =>
          actions.edit(on ? 'Lens bending solved' : 'Lens taken as straight', setOther(id, { bend: on }))
        }
      />
    </Section>
  );
}
