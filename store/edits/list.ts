import { type Draft, produce } from 'immer';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS, type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { allLayers } from '@/core/layers/layer';
import { type Project, type Settings } from '@/core/recipe/project';
import { type Change, layerOf, setOf } from './drafts';

/** Where edits are: at a set, at a layer, or at the whole. */
export type EditOwner =
  | { readonly kind: 'set'; readonly id: string }
  | { readonly kind: 'layer'; readonly id: string }
  | { readonly kind: 'whole' };

function listOf(draft: Draft<Project>, at: EditOwner): Draft<Edit>[] | undefined {
  switch (at.kind) {
    case 'set':
      return setOf(draft, at.id)?.edits;
    case 'layer':
      return layerOf(draft, at.id)?.edits;
    case 'whole':
      return draft.edits;
  }
}

/** The edits at a place; none for one that is gone. */
export function editsAt(project: Project, at: EditOwner): readonly Edit[] {
  return listOf(project as unknown as Draft<Project>, at) ?? NONE;
}

const NONE: readonly Edit[] = [];

/** Every edit of a project, wherever it is made. */
export const allEdits = ({ sets, layers, edits }: Project): readonly Edit[] => [
  ...sets.flatMap((s) => s.edits),
  ...allLayers(layers).flatMap((l) => l.edits),
  ...edits,
];

/** A project with some settings of one edit otherwise, wherever it is made. */
export const withSettings = (project: Project, id: string, settings: object): Project =>
  produce(project, (draft) => {
    const edit = allEdits(draft as Project).find((e) => e.id === id) as Draft<Edit> | undefined;
    if (edit) Object.assign(edit.settings, settings);
  });

/** One edit of a draft. */
export function editAt(draft: Draft<Project>, at: EditOwner, id: string): Draft<Edit> | undefined {
  return listOf(draft, at)?.find((e) => e.id === id);
}

/** An edit as it begins. */
export function newEdit<K extends EditKindName>(id: string, kind: K, settings?: EditSettings[K]): Edit {
  return { id, kind, settings: settings ?? EDIT_KINDS[kind].plain, amount: 1, on: true } as Edit;
}

export const addEdit =
  (at: EditOwner, edit: Edit): Change =>
  (draft) => {
    listOf(draft, at)?.push(edit as Draft<Edit>);
  };

export const setEdit =
  (
    at: EditOwner,
    id: string,
    change: Partial<Pick<Edit, 'amount' | 'on'>> & { readonly settings?: object },
  ): Change =>
  (draft) => {
    const edit = editAt(draft, at, id);
    if (edit) Object.assign(edit, change);
  };

/** Changes some settings of an edit, by those that it has when the step is taken: what a panel shows may be one behind. */
export const changeSettings =
  (at: EditOwner, id: string, change: (now: object) => object): Change =>
  (draft) => {
    const edit = editAt(draft, at, id);
    if (edit) Object.assign(edit.settings, change(edit.settings));
  };

/** Changes the first edit of a kind at a place, or adds it. @param id of a new one */
export const setKindOfEdit =
  <K extends EditKindName>(at: EditOwner, kind: K, settings: Partial<EditSettings[K]>, id: string): Change =>
  (draft) => {
    const list = listOf(draft, at);
    const known = list?.find((e) => e.kind === kind);
    if (known) Object.assign(known.settings, settings);
    else
      list?.push(
        newEdit(id, kind, { ...EDIT_KINDS[kind].plain, ...settings } as EditSettings[K]) as Draft<Edit>,
      );
  };

export const removeEdit =
  (at: EditOwner, id: string): Change =>
  (draft) => {
    const list = listOf(draft, at);
    const found = list?.findIndex((e) => e.id === id) ?? -1;
    if (found >= 0) list?.splice(found, 1);
  };

/** Takes away the first edit of a kind at a place. */
export const removeKindOfEdit =
  (at: EditOwner, kind: EditKindName): Change =>
  (draft) => {
    const list = listOf(draft, at);
    const known = list?.findIndex((e) => e.kind === kind) ?? -1;
    if (known >= 0) list?.splice(known, 1);
  };

/** Uses an edit that is made elsewhere here as well: a copy with ids of its own. */
export const copyEdit =
  (from: EditOwner, id: string, to: EditOwner, newId: string): Change =>
  (draft) => {
    const edit = editAt(draft, from, id);
    if (!edit) return;
    const copy = JSON.parse(JSON.stringify(edit)) as Draft<Edit>;
    copy.id = newId;
    if (typeof copy.where === 'object') copy.where.id = `${newId}-where`;
    listOf(draft, to)?.push(copy);
  };

/** Puts a step of a set and of the whole back to kept settings. */
export const applySettings =
  (set: string, settings: Settings): Change =>
  (draft) => {
    const own = setOf(draft, set);
    switch (settings.of) {
      case 'fit':
        if (own) own.motion = settings.motion;
        return;
      case 'merge': {
        if (!own) return;
        const { method, merge, response, tone } = settings;
        Object.assign(own, { method, merge, response });
        if (tone) setKindOfEdit({ kind: 'set', id: set }, 'toneMap', tone, `${set}-toneMap`)(draft);
        return;
      }
      case 'edits': {
        const { kinds, whole, ratio, upright } = settings;
        const replaced = (list: readonly Draft<Edit>[], kept: readonly Edit[]): Draft<Edit>[] => [
          ...list.filter((e) => !kinds.includes(e.kind)),
          ...(kept as Draft<Edit>[]),
        ];
        if (own && (settings.set.length > 0 || ratio === undefined))
          own.edits = replaced(own.edits, settings.set);
        draft.edits = replaced(draft.edits, whole);
        if (ratio !== undefined) draft.geometry.ratio = ratio;
        if (upright !== undefined) draft.geometry.upright = upright;
      }
    }
  };
