import { emptyProject } from '@/core/recipe/emptyProject';
import { saveProject } from './database';
import { type StoredProject } from './storedProject';
import { START } from './session';

/** A new project on the shelf. */
export async function newProject(title: string): Promise<string> {
  const id = crypto.randomUUID();
  await saveProject(freshProject(id, title));
  return id;
}

/** A project with nothing in it, not kept yet. */
export function freshProject(id: string, title: string): StoredProject {
  const project = emptyProject(id, title, new Date().toISOString());
  return { id, changed: project.changed, project, session: START, past: [], future: [] };
}
