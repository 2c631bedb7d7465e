'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import { styled } from 'styled-components';
import { type MatchedScores, type MatchSettings, MOST_REFERENCES } from '@/core/edits/match/matchSettings';
import { type MatchScore } from '@/core/match/matchScore';
import { findLayer } from '@/core/layers/layer';
import { matchVerdict } from '@/core/match/matchVerdicts';
import { matchedTo, matchReferences, type WeighedReference } from '@/store/matchSides';
import { type EditOwner } from '@/store/edits/list';
import { matchTo } from '@/store/matchTo';
import { Button } from '@/ui/controls/Button';
import { Toggle } from '@/ui/controls/Toggle';
import { Measure } from '@/ui/controls/Measure';
import { formatStops } from '@/ui/formatFinding';
import { Hint, Row } from '@/ui/Section';
import { VerdictMark } from '@/ui/VerdictMark';
import { useBenchParts, useProject } from '../../benchContext';
import { type EditControls } from '../controls';
import { newEditId } from '../editIds';
import { Lines } from '../Lines';
import { ReferenceMenu } from '../ReferenceMenu';
import { EDITS_TEXT } from '../text';
import { TextureMatch } from '../TextureMatch';
import { Marks } from './Marks';
import { Remainders } from './Remainders';

const TEXT = EDITS_TEXT.match;

const percent = (v: number): string => `${Math.round(100 * v)} %`;

const PARTS = ['tone', 'contrast', 'colour'] as const satisfies readonly (keyof MatchSettings)[];

/** What is matched to what, how near it came, and how much of each part is taken over. */
export function MatchControls({ at, settings, onChange }: EditControls<'match'>) {
  const { bench } = useBenchParts();
  const project = useProject();
  const references = matchReferences(project, at);
  const isSolved = settings.curves.length > 0;
  const like = matchedTo(project, at);
  const group = at.kind === 'layer' && findLayer(project.layers, at.id)?.kind === 'group' ? at.id : undefined;
  // what lies about a layer is in its light, that needs no asking
  const compared = references.find(
    ({ reference, name }) => reference.kind === 'frame' && like.some((l) => l.name === name),
  );
  return (
    <>
      {!isSolved && <Hint>{TEXT.hint}</Hint>}
      {isSolved && settings.scores && <Scores scores={settings.scores} to={settings.to} />}
      {compared && settings.scores?.paired === false && (
        <Toggle
          label={TEXT.samePlace}
          value={settings.scores.samePlace === true}
          onChange={(samePlace) =>
            void matchTo(bench, at, matchedTo(project, at), newEditId(at, 'match'), { samePlace })
          }
        />
      )}
      {isSolved && group && <Remainders group={group} settings={settings} />}
      {isSolved &&
        PARTS.map((part) => (
          <Measure
            key={part}
            label={TEXT.parts[part]}
            value={settings[part]}
            min={0}
            max={1}
            step={0.01}
            format={percent}
            onChange={(v) => onChange({ [part]: v }, `${EDITS_TEXT.names.match}: ${TEXT.parts[part]}`, part)}
          />
        ))}
      {like.length > 1 && <Weights at={at} like={like} samePlace={settings.scores?.samePlace === true} />}
      <Row>
        <ReferenceMenu
          at={at}
          label={isSolved ? TEXT.other : TEXT.choose}
          onChoose={(chosen) => void matchTo(bench, at, chosen, newEditId(at, 'match'))}
        />
        {isSolved && like.length > 0 && like.length < MOST_REFERENCES && (
          <ReferenceMenu
            at={at}
            label={TEXT.andLike}
            without={like.map((l) => l.name)}
            onChoose={(chosen) =>
              void matchTo(
                bench,
                at,
                // both count alike to begin with
                [...like, { ...chosen, weight: Math.max(...like.map((l) => l.weight)) }],
                newEditId(at, 'match'),
              )
            }
          />
        )}
        {isSolved && (
          <Button
            onPress={() =>
              onChange(
                {
                  tone: settings.tone / 2,
                  contrast: settings.contrast / 2,
                  colour: settings.colour / 2,
                },
                EDITS_TEXT.half,
              )
            }
          >
            {EDITS_TEXT.half}
          </Button>
        )}
      </Row>
      <Marks at={at} settings={settings} />
      {at.kind === 'layer' && <TextureMatch at={at} />}
    </>
  );
}

interface WeightsProps {
  readonly at: EditOwner;
  readonly like: readonly WeighedReference[];
  readonly samePlace: boolean;
}

/** How much each of several pictures counts. */
function Weights({ at, like, samePlace }: WeightsProps) {
  const { bench } = useBenchParts();
  const weighed = (next: readonly WeighedReference[]): void =>
    void matchTo(bench, at, next, newEditId(at, 'match'), { samePlace });
  return (
    <>
      {like.map((own) => (
        <Weight
          // one that was taken back begins anew
          key={`${own.name} ${own.weight}`}
          own={own}
          onWeight={(weight) => weighed(like.map((l) => (l === own ? { ...l, weight } : l)))}
          onRemove={() => weighed(like.filter((l) => l !== own))}
        />
      ))}
    </>
  );
}

interface WeightProps {
  readonly own: WeighedReference;
  readonly onWeight: (weight: number) => void;
  readonly onRemove: () => void;
}

/** One of them; it is solved anew when the hand lets go. */
function Weight({ own, onWeight, onRemove }: WeightProps) {
  const [weight, setWeight] = useState(own.weight);
  return (
    <WeightLine>
      <Measure
        label={own.name}
        value={weight}
        min={0.05}
        max={1}
        step={0.05}
        format={percent}
        onChange={setWeight}
        onChangeEnd={onWeight}
      />
      <Button data-plain aria-label={TEXT.without(own.name)} onPress={onRemove}>
        <X size={12} aria-hidden />
      </Button>
    </WeightLine>
  );
}

const WeightLine = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  label {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** One line of the score: its name, and how it reads. */
const LINES: readonly (readonly [line: keyof MatchScore, of: (score: MatchScore) => string])[] = [
  ['deltaE', (s) => s.deltaE.toFixed(1)],
  ['darks', (s) => formatStops(s.darks)],
  ['middles', (s) => formatStops(s.middles)],
  ['lights', (s) => formatStops(s.lights)],
  ['cast', (s) => `${(100 * s.cast.strength).toFixed(1)} ${Math.round(s.cast.hue)}°`],
  ['chroma', (s) => percent(s.chroma)],
];

/** How it stood to the reference before, and how it does when all of the change is taken. */
function Scores({ scores, to }: { readonly scores: MatchedScores; readonly to: string }) {
  const { before, after, paired, why, cannot } = scores;
  return (
    <>
      <Lines>
        <caption>{TEXT.against(to)}</caption>
        <thead>
          <tr>
            <th scope="col">{TEXT.measure}</th>
            <td>{TEXT.before}</td>
            <td>{TEXT.after}</td>
          </tr>
        </thead>
        <tbody>
          {LINES.map(([line, of]) => (
            <tr key={line}>
              <th scope="row">
                <VerdictMark verdict={matchVerdict(line, after, paired)} size={11} /> {TEXT.lines[line]}
              </th>
              <td>{of(before)}</td>
              <td>{of(after)}</td>
            </tr>
          ))}
        </tbody>
      </Lines>
      <Hint>{why}</Hint>
      {cannot.map((sentence) => (
        <Hint key={sentence}>{sentence}</Hint>
      ))}
    </>
  );
}
