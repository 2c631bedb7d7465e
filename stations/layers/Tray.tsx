'use client';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Button, GridList, GridListItem, useDragAndDrop } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Layer, type LayerSource } from '@/core/layers/layer';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Project } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { dropLayer } from '@/store/edits/layers';
import { smallMerge } from '@/store/smallMerge';
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

/** What the line shows of a layer. */
interface Shown {
  readonly id: string;
  readonly name: string;
  /** how deep in groups it lies, and the groups around it */
  readonly within: readonly string[];
  readonly group: boolean;
  readonly out: boolean;
  /** how it is laid and what is done to it, in words */
  readonly state: string;
  readonly source?: LayerSource;
}

/** Layers from far to near; what is in a group follows it. */
function shownOf(
  layers: readonly Layer[],
  regionName: (id: string) => string,
  within: readonly string[] = [],
): Shown[] {
  return layers.flatMap((layer): Shown[] => {
    const { id, name, shown } = layer;
    const own = { id, name, within, group: layer.kind === 'group', out: !shown };
    const source = layer.kind === 'picture' ? { source: layer.source } : {};
    return [
      { ...own, state: stateOf(layer, regionName), ...source },
      ...(layer.kind === 'group' ? shownOf(layer.layers, regionName, [...within, id]) : []),
    ];
  });
}

/** One line of JSON for each layer: as long as it stays the same nothing is drawn anew, whatever is done to the layer. */
function shownTexts({ layers, regions }: Project): string {
  const nameOf = (id: string): string => {
    const region = regions.find((r) => r.id === id);
    return region ? regionSentence(region) : '';
  };
  return shownOf(layers, nameOf)
    .map((shown) => JSON.stringify(shown))
    .join('\n');
}

/** What the line shows; a layer that looks as before is the same object as before. */
function useShown(): readonly Shown[] {
  const texts = useBench((s) => shownTexts(s.history.project));
  const [known] = useState(() => new Map<string, Shown>());
  return useMemo(
    () =>
      texts.split('\n').flatMap((text) => {
        if (text === '') return [];
        const shown = known.get(text) ?? (JSON.parse(text) as Shown);
        known.set(text, shown);
        return [shown];
      }),
    [texts, known],
  );
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
  const chosen = useBench((s) => s.session.layer);
  const actions = useActions();
  const { bench } = useBenchParts();
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const all = useShown();
  const line = useMemo(() => all.filter(({ within }) => !within.some((id) => closed.has(id))), [all, closed]);
  const groups = new Set(line.flatMap(({ id, group }) => (group ? [id] : [])));
  const move = (keys: Iterable<unknown>, target: string, where: 'before' | 'after' | 'in'): void => {
    for (const key of keys) {
      const moved = line.find(({ id }) => id === key);
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
  return (
    <Strip>
      <Heading>
        {TEXT.tray} <span>· what stands nearer covers what stands farther</span>
      </Heading>
      <Cards
        aria-label={TEXT.tray}
        items={line}
        layout="grid"
        selectionMode="single"
        disallowEmptySelection
        selectionBehavior="replace"
        selectedKeys={line.some(({ id }) => id === chosen) ? [chosen] : []}
        onSelectionChange={(keys) => {
          const [id] = keys === 'all' ? [] : [...keys];
          if (id !== undefined) actions.go({ layer: String(id) });
        }}
        dragAndDropHooks={dragAndDropHooks}
        dependencies={[closed, chosen, bench]}
      >
        {({ id, name, within, group, out, state, source }) => (
          <Card
            id={id}
            textValue={`Layer ${name}`}
            data-out={out ? '' : undefined}
            data-within={within.length > 0 ? '' : undefined}
          >
            <Handle slot="drag" aria-label={`Move ${name}`}>
              ⇄
            </Handle>
            {group && (
              <Fold aria-label={`${closed.has(id) ? 'Open' : 'Close'} ${name}`} onPress={() => fold(id)}>
                {closed.has(id) ? <ChevronRight aria-hidden /> : <ChevronDown aria-hidden />}
              </Fold>
            )}
            <LayerThumbnail source={source} />
            <b>{name}</b>
            <small>{state}</small>
          </Card>
        )}
      </Cards>
    </Strip>
  );
}

/** What a layer is made from, small. */
function LayerThumbnail({ source }: { readonly source?: LayerSource }) {
  const image = useBench((s): EncodedImage | undefined => {
    if (!source) return undefined;
    if (source.kind === 'set') {
      const scope = setScope(s.history.project, source.set);
      return scope && smallMerge(s, scope);
    }
    const hash = s.history.project.frames.find((f) => f.id === source.frame)?.hash;
    return hash ? s.decoded[hash]?.levels.at(-1) : undefined;
  });
  return image ? <Thumbnail image={image} label="" /> : <canvas width={3} height={2} aria-hidden />;
}
