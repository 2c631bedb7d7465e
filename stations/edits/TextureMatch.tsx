'use client';
import { useEffect, useState } from 'react';
import { type Texture, type TextureMatch as Found } from '@/core/match/texture/matchTexture';
import { findLayer } from '@/core/layers/layer';
import { editsAt, type EditOwner } from '@/store/edits/list';
import { textureSides } from '@/store/matchSides';
import { isTextureMade, makeTextureAlike } from '@/store/matchTexture';
import { nodeForEdit } from '@/store/nodeBefore';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { useBench, useBenchParts } from '../benchContext';
import { Lines } from './Lines';
import { EDITS_TEXT } from './text';

const TEXT = EDITS_TEXT.texture;

/** squares of a JPEG that stand out so far are named */
const SQUARES = 1.5;
const STILL_MS = 250;

const meanGrain = ({ noise }: Texture): number | undefined => {
  const told = noise?.sigmas.filter((s) => s !== undefined) ?? [];
  return told.length > 0 ? (255 * told.reduce((a, b) => a + b, 0)) / told.length : undefined;
};

const text = (value: number | undefined): string => (value === undefined ? TEXT.untold : value.toFixed(1));

/** below which edges are as sharp as pixels can be, px */
const SHARP = 0.3;

const softness = (spread: number | undefined): string =>
  spread !== undefined && spread < SHARP ? TEXT.under(SHARP) : text(spread);

interface Measured {
  /** undefined where there is nothing to measure */
  readonly found?: Found;
  /** see blockEdges */
  readonly squares?: number;
}

/** Grain and edges of a layer against what lies beneath it, and what makes them alike. */
export function TextureMatch({ at }: { readonly at: Extract<EditOwner, { kind: 'layer' }> }) {
  const { bench } = useBenchParts();
  const measured = useTextures(at);
  const isMade = useBench(({ history }) => {
    const edits = editsAt(history.project, at);
    return measured?.found !== undefined && isTextureMade(edits, measured.found);
  });
  if (!measured) return <Hint>{TEXT.measuring}</Hint>;
  const { found, squares } = measured;
  if (!found) return <Hint>{TEXT.noPlace}</Hint>;
  const hasChange = (found.grain ?? found.soften ?? found.sharpen) !== undefined;
  return (
    <>
      <Lines>
        <caption>{TEXT.title}</caption>
        <thead>
          <tr>
            <th scope="col" />
            <td>{TEXT.own}</td>
            <td>{TEXT.about}</td>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">{TEXT.grain}</th>
            <td>{text(meanGrain(found.own))}</td>
            <td>{text(meanGrain(found.other))}</td>
          </tr>
          <tr>
            <th scope="row">{TEXT.edges}</th>
            <td>{softness(found.own.spread)}</td>
            <td>{softness(found.other.spread)}</td>
          </tr>
        </tbody>
      </Lines>
      {found.denoise !== undefined && <Hint>{TEXT.grainier(found.denoise)}</Hint>}
      {squares !== undefined && squares > SQUARES && <Hint>{TEXT.squares(squares)}</Hint>}
      {hasChange && isMade && <Hint>{TEXT.done}</Hint>}
      {hasChange && !isMade && (
        <Row>
          <Button onPress={() => makeTextureAlike(bench, at, found, TEXT.made)}>{TEXT.make}</Button>
        </Row>
      )}
      {!hasChange && found.denoise === undefined && <Hint>{TEXT.alike}</Hint>}
    </>
  );
}

/** What is measured of a layer before its grain and its edges are changed; anew when what comes before, or lies beneath, has changed. */
function useTextures(at: Extract<EditOwner, { kind: 'layer' }>): Measured | undefined {
  const { bench } = useBenchParts();
  const [measured, setMeasured] = useState<Measured>();
  const nodes = useBench((state) => {
    const compiled = bench.shown(state).built?.compiled;
    const beneath = compiled?.layers.find((l) => l.id === at.id)?.beneath;
    return compiled && `${nodeForEdit(state.history.project, compiled, at, 'soften')} ${beneath}`;
  });
  useEffect(() => {
    const controller = new AbortController();
    const run = async (): Promise<void> => {
      const sides = textureSides(bench, at, 'soften');
      if (!sides) return setMeasured({});
      const { history, decoded } = bench.store.getState();
      const layer = findLayer(history.project.layers, at.id);
      const source = layer?.kind === 'picture' && layer.source.kind !== 'set' ? layer.source.frame : '';
      const hash = history.project.frames.find((f) => f.id === source)?.hash ?? '';
      const shot = decoded[hash]?.levels.at(0);
      const options = { signal: controller.signal, priority: -2 };
      const found = await bench.pool.run((tasks) => tasks.fitTexture(sides.own, sides.about), options);
      const squares =
        shot && shot.away === undefined
          ? await bench.pool.run((tasks) => tasks.blockEdges(shot), options)
          : undefined;
      if (!controller.signal.aborted) setMeasured({ found, ...(squares === undefined ? {} : { squares }) });
    };
    const timer = setTimeout(() => {
      // what cannot be read pixel for pixel now is not measured
      void run().catch(() => {
        if (!controller.signal.aborted) setMeasured({});
      });
    }, STILL_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [at, bench, nodes]);
  return measured;
}
