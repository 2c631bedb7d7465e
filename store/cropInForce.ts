import { cropOf } from '@/core/recipe/cropOf';
import { setGraph } from '@/core/recipe/setGraph';
import { baseScope } from '@/core/recipe/setFrames';
import { remember } from './remember';

/** {@link cropOf}, made anew only when it can have changed: searching it takes longer than a slider may. */
export const cropInForce = remember(cropOf, (project) => {
  const scope = baseScope(project);
  const nodes = scope && setGraph(scope);
  // how the base's frames lie follows from how they are fitted, and from what was measured of that
  return [nodes?.merge, project.made, project.geometry];
});
