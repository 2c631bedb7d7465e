'use client';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { Button, GridList, GridListItem, useDragAndDrop } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Layer } from '@/core/layers/layer';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { setScope } from '@/core/recipe/project';
import { dropLayer } from '@/store/edits/layers';
import { shownMerge } from '@/store/madePixels';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR, focusRing } from '@/ui/tokens';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { regionSentence } from '../regions/sentence';
import { LAYERS_TEXT as TEXT } from './text';

const Strip = styled.div`
  height: 100%;
  padding: 9px 14px;
  overflow-x: auto;
`;

const Heading = styled.h2`
  font-size: 13px;
  font-weight: 600;
  margin-bottom: 7px;
  span {
    font-weight: 400;
    color: ${COLOUR.quiet};
  }
`;

const Cards = styled(GridList)`
  display: flex;
  align-items: stretch;
  gap: 8px;
  padding: 3px;
  outline: none;
  .react-aria-DropIndicator[data-drop-target] {
    width: 0;
    outline: 2px solid ${COLOUR.act};
  }
` as typeof GridList;

const Card = styled(GridListItem)`
  position: relative;
  display: flex;
  flex-direction: column;
  width: 118px;
  flex: none;
  padding-bottom: 4px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  cursor: default;
  canvas {
    width: 100%;
    height: 64px;
    object-fit: contain;
    display: block;
    background: ${COLOUR.table};
  }
  &[data-within] {
    border-top: 3px solid ${COLOUR.control};
  }
  &[data-selected] {
    box-shadow: 0 0 0 2px ${COLOUR.act};
    border-color: ${COLOUR.act};
  }
  &[data-drop-target] {
    background: ${COLOUR.hover};
    box-shadow: 0 0 0 2px ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 4px;
  }
  &[data-dragging] {
    opacity: 0.4;
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
  &[data-out] canvas,
  &[data-out] b {
    opacity: 0.45;
  }
`;

const Handle = styled(Button)`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  padding: 0;
  border: 0;
  &[data-focus-visible] {
    right: 3px;
    top: 3px;
    width: auto;
    height: auto;
    padding: 1px 5px;
    background: ${COLOUR.raised};
    ${focusRing}
  }
`;

const Fold = styled(Button)`
  position: absolute;
  left: 3px;
  top: 3px;
  width: 22px;
  height: 22px;
  padding: 3px;
  border: 0;
  background: ${COLOUR.raised};
  svg {
    display: block;
    width: 16px;
    height: 16px;
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

/** A layer on the line, and how deep in groups it lies. */
interface Laid {
  readonly layer: Layer;
  readonly depth: number;
}

/** Layers from far to near; what is in an open group follows it. */
function laidOut(layers: readonly Layer[], closed: ReadonlySet<string>, depth = 0): Laid[] {
  return layers.flatMap((layer): Laid[] => [
    { layer, depth },
    ...(layer.kind === 'group' && !closed.has(layer.id) ? laidOut(layer.layers, closed, depth + 1) : []),
  ]);
}

function stateOf(layer: Layer, regionName: (id: string) => string): string {
  if (!layer.shown) return 'not shown';
  const where =
    typeof layer.where === 'string'
      ? regionName(layer.where)
      : layer.where
        ? regionSentence(layer.where)
        : '';
  const edits = layer.edits.filter((e) => e.on).length;
  return [
    layer.opacity < 1 ? `${Math.round(100 * layer.opacity)} %` : '',
    layer.blend === 'normal' ? '' : TEXT.blends[layer.blend].toLowerCase(),
    where === '' ? 'everywhere' : where,
    edits > 0 ? `${edits} ${edits === 1 ? 'change' : 'changes'}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** The tree from far to near: what stands nearer covers what stands farther. Dragged along, into groups and out of them, by pointer or keys. */
export function LayersTray() {
  const { layers, chosen, regions } = useBench((s) => ({
    layers: s.history.project.layers,
    chosen: s.session.layer,
    regions: s.history.project.regions,
  }));
  const actions = useActions();
  const { bench } = useBenchParts();
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const line = laidOut(layers, closed);
  const groups = new Set(line.flatMap(({ layer }) => (layer.kind === 'group' ? [layer.id] : [])));
  const move = (keys: Iterable<unknown>, target: string, where: 'before' | 'after' | 'in'): void => {
    for (const key of keys) {
      const moved = line.find(({ layer }) => layer.id === key)?.layer;
      if (moved) actions.edit(`Moved ${moved.name}`, dropLayer(moved.id, { target, where }));
    }
  };
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': String(key) })),
    onReorder: ({ keys, target }) =>
      move(keys, String(target.key), target.dropPosition === 'before' ? 'before' : 'after'),
    onItemDrop: (drop) =>
      void Promise.all(
        drop.items.flatMap((item) => (item.kind === 'text' ? [item.getText('text/plain')] : [])),
      ).then((keys) => move(keys, String(drop.target.key), 'in')),
    getDropOperation: (target) =>
      target.type === 'item' && target.dropPosition === 'on' && !groups.has(String(target.key))
        ? 'cancel'
        : 'move',
  });
  const fold = (id: string): void => {
    const next = new Set(closed);
    if (!next.delete(id)) next.add(id);
    setClosed(next);
  };
  const nameOf = (id: string): string => {
    const region = regions.find((r) => r.id === id);
    return region ? regionSentence(region) : '';
  };
  return (
    <Strip>
      <Heading>
        {TEXT.tray} <span>· what stands nearer covers what stands farther</span>
      </Heading>
      <Cards
        aria-label={TEXT.tray}
        items={line.map(({ layer, depth }) => ({ id: layer.id, layer, depth }))}
        layout="grid"
        selectionMode="single"
        disallowEmptySelection
        selectionBehavior="replace"
        selectedKeys={line.some(({ layer }) => layer.id === chosen) ? [chosen] : []}
        onSelectionChange={(keys) => {
          const [id] = keys === 'all' ? [] : [...keys];
          if (id !== undefined) actions.go({ layer: String(id) });
        }}
        dragAndDropHooks={dragAndDropHooks}
        dependencies={[closed, chosen, bench]}
      >
        {({ layer, depth }) => (
          <Card
            id={layer.id}
            textValue={`Layer ${layer.name}`}
            data-out={layer.shown ? undefined : ''}
            data-within={depth > 0 ? '' : undefined}
          >
            <Handle slot="drag" aria-label={`Move ${layer.name}`}>
              ⇄
            </Handle>
            {layer.kind === 'group' && (
              <Fold
                aria-label={`${closed.has(layer.id) ? 'Open' : 'Close'} ${layer.name}`}
                onPress={() => fold(layer.id)}
              >
                {closed.has(layer.id) ? <ChevronRight aria-hidden /> : <ChevronDown aria-hidden />}
              </Fold>
            )}
            <LayerThumbnail layer={layer} />
            <b>{layer.name}</b>
            <small>{stateOf(layer, nameOf)}</small>
          </Card>
        )}
      </Cards>
    </Strip>
  );
}

/** What a layer is made from, small. */
function LayerThumbnail({ layer }: { readonly layer: Layer }) {
  const image = useBench((s): EncodedImage | undefined => {
    if (layer.kind !== 'picture') return undefined;
    const { source } = layer;
    if (source.kind === 'set') {
      const scope = setScope(s.history.project, source.set);
      return scope && shownMerge(s, scope)?.scene.levels.at(-1);
    }
    const hash = s.history.project.frames.find((f) => f.id === source.frame)?.hash;
    return hash ? s.decoded[hash]?.levels.at(-1) : undefined;
  });
  return image ? <Thumbnail image={image} label="" /> : <canvas width={3} height={2} aria-hidden />;
}
