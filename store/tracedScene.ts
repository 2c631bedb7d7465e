import { type SpineStep } from '@/core/graph/compiledPicture';
import { type ViewScene } from '@/core/view/viewScene';
import { activeScope } from './activeSet';
import { type BenchState } from './benchState';
import { buildPicture, pictureScene } from './buildScene';

/** What the trace of a pixel is read from. */
export interface TracedScene {
  readonly scene: ViewScene;
  readonly spine: readonly SpineStep[];
  /** whether the set that is worked on is the picture's base */
  readonly isBase: boolean;
}

let last: { readonly of: ViewScene; readonly made: TracedScene } | undefined;

/** A scene with every state of the picture that a trace reads. Made once a scene: the pointer asks for it with every movement. */
export function tracedScene(state: BenchState, scene: ViewScene): TracedScene {
  if (last?.of === scene) return last.made;
  const built = buildPicture(state, state.history.project, { spine: true });
  const spine = built?.compiled.spine ?? [];
  const picture =
    built &&
    pictureScene(
      built,
      spine.map((s) => s.node),
    );
  const shown = scene.picture;
  const made = {
    scene: {
      ...scene,
      ...(picture && shown
        ? {
            picture: {
              ...shown,
              nodes: new Map([...shown.nodes, ...picture.nodes]),
              made: new Map([...shown.made, ...picture.made]),
            },
          }
        : {}),
    },
    spine: picture ? spine : [],
    isBase: activeScope(state)?.set.id === state.history.project.base,
  };
  last = { of: scene, made };
  return made;
}
