import { nodesOfView } from './renderView';
import { type View, type ViewScene } from './viewScene';

/**
 * Whether a scene has what a view is made from. A view that names nodes belongs to the recipe that it was compiled with: after a change, the next
 * scene has others.
 */
export function holdsView({ picture }: ViewScene, view: View): boolean {
  if (!picture) return true;
  return nodesOfView(picture, view).every((hash) => picture.nodes.has(hash));
}
