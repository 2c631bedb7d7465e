import { loadProject, removeUnused, saveOriginal, savePreview, saveProject } from './database';
import { type ImportShelf } from './importProject';

/** The shelf of this browser, as opened project files come onto it. */
export const PROJECT_SHELF: ImportShelf = {
  has: async (id) => (await loadProject(id)) !== undefined,
  keep: saveOriginal,
  drop: removeUnused,
  save: saveProject,
  savePreview,
  newId: () => crypto.randomUUID(),
};
