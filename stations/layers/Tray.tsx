'use client';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Layer } from '@/core/layers/layer';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR, focusRing } from '@/ui/tokens';
import { useActions, useBench } from '../benchContext';
import { LAYERS_TEXT as TEXT } from './text';

const Strip = styled.div`
  height: 100%;
  padding: 9px 14px;
  overflow-x: auto;
`;

const Heading = styled.h2`
  font-size: 13px;
  font-weight: 600;
  margin-bottom: 9px;
`;

const Cards = styled.ol`
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 3px;
`;

const Between = styled.span`
  color: ${COLOUR.quiet};
  font-size: 11px;
  width: 54px;
  text-align: center;
`;

const Card = styled(Button)`
  display: flex;
  flex-direction: column;
  width: 132px;
  padding: 0 0 5px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    width: 100%;
    height: 76px;
    object-fit: cover;
    display: block;
  }
  canvas[data-cut] {
    object-fit: contain;
  }
  &[aria-pressed='true'] {
    box-shadow: 0 0 0 2px ${COLOUR.act};
    border-color: ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 4px;
  }
  &[data-out] {
    opacity: 0.5;
  }
  b,
  small {
    padding: 2px 7px 0;
    font-weight: 500;
    font-size: 12px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    font-size: 11px;
    color: ${COLOUR.quiet};
  }
`;

function state({ visible, mask, opacity }: Layer): string {
  if (!visible) return 'not shown';
  const strokes = mask.strokes.length;
  const masked =
    strokes > 0
      ? `${strokes} ${strokes === 1 ? 'stroke' : 'strokes'}`
      : mask.base === 'shown'
        ? 'everywhere'
        : 'hidden';
  const kept = mask.range ? ', by tone' : mask.inverted ? ', turned' : '';
  return `${Math.round(100 * opacity)} %, ${masked}${kept}`;
}

/** The stack from below to above, joined by how each is blended onto the one before. */
export function LayersTray() {
  const { layers, chosen, decoded, merged, frames } = useBench((s) => ({
    layers: s.history.project.layers,
    chosen: s.session.layer,
    decoded: s.decoded,
    merged: s.merged,
    frames: s.history.project.frames,
  }));
  const actions = useActions();
  const small = ({ source }: Layer) => {
    const hash = source.kind === 'frame' ? frames.find((f) => f.id === source.frame)?.hash : undefined;
    const levels = source.kind === 'merge' ? merged?.scene.levels : hash ? decoded[hash]?.levels : undefined;
    return levels?.[levels.length - 1];
  };
  return (
    <Strip>
      <Heading>{TEXT.tray}</Heading>
      <Cards aria-label={TEXT.tray}>
        {layers.map((layer, i) => {
          const image = small(layer);
          return (
            <li key={layer.id} style={{ display: 'flex', alignItems: 'center', gap: 6 }}>
              {i > 0 && <Between>{TEXT.blends[layer.blend].toLowerCase()} →</Between>}
              <Card
                aria-label={`Layer ${layer.name}`}
                aria-pressed={layer.id === chosen}
                data-out={layer.visible ? undefined : ''}
                onPress={() => actions.go({ layer: layer.id })}
              >
                {image ? <Thumbnail image={image} label="" /> : <canvas width={3} height={2} />}
                <b>{layer.name}</b>
                <small>{state(layer)}</small>
              </Card>
            </li>
          );
        })}
      </Cards>
    </Strip>
  );
}
