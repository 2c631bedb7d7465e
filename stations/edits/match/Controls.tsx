'use client';
import { type MatchedScores, type MatchSettings } from '@/core/edits/match/matchSettings';
import { type MatchScore } from '@/core/match/matchScore';
import { matchReferences } from '@/store/matchSides';
import { matchTo } from '@/store/matchTo';
import { Button } from '@/ui/controls/Button';
import { Toggle } from '@/ui/controls/Toggle';
import { Measure } from '@/ui/controls/Measure';
import { formatStops } from '@/ui/formatFinding';
import { Hint, Row } from '@/ui/Section';
import { useBenchParts, useProject } from '../../benchContext';
import { type EditControls } from '../controls';
import { newEditId } from '../editIds';
import { Lines } from '../Lines';
import { ReferenceMenu } from '../ReferenceMenu';
import { EDITS_TEXT } from '../text';
import { TextureMatch } from '../TextureMatch';
import { Marks } from './Marks';

const TEXT = EDITS_TEXT.match;

const percent = (v: number): string => `${Math.round(100 * v)} %`;

const PARTS = ['tone', 'contrast', 'colour'] as const satisfies readonly (keyof MatchSettings)[];

/** What is matched to what, how near it came, and how much of each part is taken over. */
export function MatchControls({ at, settings, onChange }: EditControls<'match'>) {
  const { bench } = useBenchParts();
  const project = useProject();
  const references = matchReferences(project, at);
  const isSolved = settings.curves.length > 0;
  // what lies about a layer is in its light, that needs no asking
  const compared = references.find(
    ({ reference, name }) => reference.kind === 'frame' && name === settings.to,
  );
  return (
    <>
      {!isSolved && <Hint>{TEXT.hint}</Hint>}
      {isSolved && settings.scores && <Scores scores={settings.scores} to={settings.to} />}
      {compared && settings.scores?.paired === false && (
        <Toggle
          label={TEXT.samePlace}
          value={settings.scores.samePlace === true}
          onChange={(samePlace) => void matchTo(bench, at, compared, newEditId(at, 'match'), samePlace)}
        />
      )}
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
      <Row>
        <ReferenceMenu
          at={at}
          label={isSolved ? TEXT.other : TEXT.choose}
          onChoose={(chosen) => void matchTo(bench, at, chosen, newEditId(at, 'match'))}
        />
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

/** One line of the score: its name, and how it reads. */
const LINES: readonly (readonly [name: string, of: (score: MatchScore) => string])[] = [
  [TEXT.lines.deltaE, (s) => s.deltaE.toFixed(1)],
  [TEXT.lines.darks, (s) => formatStops(s.darks)],
  [TEXT.lines.middles, (s) => formatStops(s.middles)],
  [TEXT.lines.lights, (s) => formatStops(s.lights)],
  [TEXT.lines.cast, (s) => `${(100 * s.cast.strength).toFixed(1)} ${Math.round(s.cast.hue)}°`],
  [TEXT.lines.chroma, (s) => percent(s.chroma)],
];

/** How it stood to the reference before, and how it does when all of the change is taken. */
function Scores({ scores, to }: { readonly scores: MatchedScores; readonly to: string }) {
  const { before, after, why, cannot } = scores;
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
          {LINES.map(([name, of]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
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
