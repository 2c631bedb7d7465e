'use client';
import { useMemo } from 'react';
import { type SetKind } from '@/core/capture/setKind';
import { type MomentTaste, MOMENT_TASTES } from '@/core/merge/moments/momentTastes';
import { chooseProjection } from '@/core/merge/panorama/canvas';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { panoramaOf } from '@/core/recipe/setFrames';
import { type StackMethod } from '@/core/merge/stack/stackMethod';
import { setOther } from '@/store/edits/sets';
import { momentLayers } from '@/store/momentLayers';
import { Button } from '@/ui/controls/Button';
import { PickOne } from '@/ui/controls/PickOne';
import { Toggle } from '@/ui/controls/Toggle';
import { Advice, Hint, Section } from '@/ui/Section';
import { useActions, useBenchParts, useMerged, useScope } from '../benchContext';
import { BorderCards } from './BorderCards';
import { ProjectionCards } from './ProjectionCards';
import { SeamSection } from './SeamSection';
import { OTHER_TEXT as TEXT } from './text';

/** How a set that is no bracket becomes one picture. */
export function OtherSection({ kind }: { kind: Exclude<SetKind, 'bracket'> }) {
  switch (kind) {
    case 'panorama':
      return <ProjectionSection />;
    case 'stack':
      return <StackSection />;
    case 'moments':
      return (
        <>
          <SeamSection />
          <MomentsSection />
        </>
      );
    case 'focus':
      return <FocusSection />;
    case 'swap':
      return (
        <>
          <SeamSection />
          <HowSection kind={kind} />
        </>
      );
    case 'developments':
      return <HowSection kind={kind} />;
  }
}

function HowSection({ kind }: { readonly kind: 'swap' | 'developments' }) {
  return (
    <Section title={TEXT.how}>
      <Hint>{TEXT.hints[kind]}</Hint>
    </Section>
  );
}

/** The projections with what each does to the picture, and the one that is recommended. */
function ProjectionSection() {
  const scope = useScope();
  const panorama = scope && panoramaOf(scope);
  const actions = useActions();
  const offer = useMemo(() => panorama && chooseProjection(panorama.fit), [panorama]);
  if (!scope) return null;
  const { id, other } = scope.set;
  const { projection: wished, views } = other;
  const brackets = scope.set.views.length > 0 && (
    <Section title={TEXT.views}>
      <Toggle
        label={TEXT.viewsMerged}
        value={views === 'merged'}
        onChange={(merged) =>
          actions.edit(
            merged ? TEXT.viewsMerged : TEXT.viewsApart,
            setOther(id, { views: merged ? 'merged' : 'apart' }),
          )
        }
      />
      <Hint>{TEXT.viewsHint}</Hint>
    </Section>
  );
  if (!panorama || !offer) return brackets || null;
  const choose = (projection: ProjectionKind | 'auto', name: string): void =>
    actions.edit(`Projection: ${name.toLowerCase()}`, setOther(id, { projection }));
  return (
    <>
      {brackets}
      <Section title={TEXT.projection}>
        <Advice>
          {offer.why}
          {wished !== 'auto' && wished !== offer.recommended && (
            <Button data-main onPress={() => choose('auto', TEXT.projections[offer.recommended])}>
              {TEXT.recommended}
            </Button>
          )}
        </Advice>
        <ProjectionCards
          scope={scope}
          panorama={panorama}
          choices={offer.choices}
          value={wished === 'auto' ? offer.recommended : wished}
          onChange={(kind) => choose(kind, TEXT.projections[kind])}
        />
        <Hint>{TEXT.projectionHint}</Hint>
      </Section>
      <BorderCards
        scope={scope}
        panorama={panorama}
        projection={wished === 'auto' ? offer.recommended : wished}
      />
    </>
  );
}

const SCHOOLS = ['auto', 'depth', 'pyramid'] as const;

/** The two schools of focus merging, and which one suits the set. */
function FocusSection() {
  const set = useScope()?.set;
  const choice = useMerged()?.school;
  const actions = useActions();
  if (!set) return null;
  const wished = set.other.focus;
  const choose = (focus: (typeof SCHOOLS)[number]): void =>
    actions.edit(`Focus: ${TEXT.schools[focus].toLowerCase()}`, setOther(set.id, { focus }));
  return (
    <Section title={TEXT.how}>
      {choice && (
        <Advice>
          {choice.why}
          {wished !== 'auto' && wished !== choice.school && (
            <Button data-main onPress={() => choose('auto')}>
              {TEXT.suiting}
            </Button>
          )}
        </Advice>
      )}
      <PickOne
        label={TEXT.school}
        value={wished}
        options={SCHOOLS.map((value) => ({
          value,
          label:
            value === 'auto' && choice
              ? `${TEXT.schools.auto}: ${TEXT.schools[choice.school].toLowerCase()}`
              : TEXT.schools[value],
        }))}
        onChange={choose}
      />
      <Hint>{TEXT.focusHint}</Hint>
    </Section>
  );
}

const METHODS = Object.keys(TEXT.methods) as StackMethod[];
const FORMS = ['curve', 'mesh'] as const;
const BACKGROUNDS = ['keep', 'subtract', 'divide'] as const;

function StackSection() {
  const set = useScope()?.set;
  const actions = useActions();
  if (!set) return null;
  const { stack, background, backgroundForm } = set.other;
  return (
    <Section title={TEXT.stack}>
      <PickOne
        label={TEXT.samples}
        value={stack}
        options={METHODS.map((value) => ({ value, label: TEXT.methods[value] }))}
        onChange={(method) =>
          actions.edit(`Stack: ${TEXT.methods[method].toLowerCase()}`, setOther(set.id, { stack: method }))
        }
      />
      <PickOne
        label={TEXT.background}
        value={background}
        options={BACKGROUNDS.map((value) => ({ value, label: TEXT.backgrounds[value] }))}
        onChange={(how) =>
          actions.edit(
            `Background: ${TEXT.backgrounds[how].toLowerCase()}`,
            setOther(set.id, { background: how }),
          )
        }
      />
      {background !== 'keep' && (
        <PickOne
          label={TEXT.form}
          value={backgroundForm}
          options={FORMS.map((value) => ({ value, label: TEXT.forms[value] }))}
          onChange={(form) =>
            actions.edit(
              `Background: ${TEXT.forms[form].toLowerCase()}`,
              setOther(set.id, { backgroundForm: form }),
            )
          }
        />
      )}
      <Hint>{TEXT.stackHint}</Hint>
    </Section>
  );
}

const TASTES = Object.keys(MOMENT_TASTES) as MomentTaste[];
const MOST_REGIONS = 8;

/** What is looked for, the parts that were found, and the way to paint on them. */
function MomentsSection() {
  const scope = useScope();
  const merged = useMerged('now');
  const { bench } = useBenchParts();
  const actions = useActions();
  if (!scope) return null;
  const { set, frames } = scope;
  const regions = merged?.regions ?? [];
  const nameOf = (frame: number): string =>
    frames.find((f) => f.id === merged?.scene.frames[frame])?.file ?? '';
  return (
    <Section title={TEXT.moments}>
      <PickOne
        label={TEXT.wanted}
        value={set.other.moments}
        options={TASTES.map((value) => ({ value, label: TEXT.tastes[value] }))}
        onChange={(moments) =>
          actions.edit(`Moments: ${TEXT.tastes[moments].toLowerCase()}`, setOther(set.id, { moments }))
        }
      />
      {regions.slice(0, MOST_REGIONS).map((region, i) => (
        <Hint key={i}>
          {Math.round(100 * region.area)} % from “{nameOf(region.frame)}”
          {region.better.length > 0 && `: ${region.better.map((b) => TEXT.better[b]).join(', ')}`}
        </Hint>
      ))}
      {merged && regions.length > 1 && (
        <Button
          onPress={() => {
            actions.edit('Moments laid out as layers', momentLayers(set.id, merged));
            // the nearest is the one whose strokes are seen: the merge itself lies covered
            const [nearest] = bench.store.getState().history.project.layers.slice(-1);
            actions.go({ layer: nearest.id });
          }}
        >
          {TEXT.asLayers}
        </Button>
      )}
      <Hint>{TEXT.momentsHint}</Hint>
    </Section>
  );
}
