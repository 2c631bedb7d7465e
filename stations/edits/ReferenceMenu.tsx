'use client';
import { MenuTrigger } from 'react-aria-components';
import { type Project } from '@/core/recipe/project';
import { addFiles } from '@/store/addFiles';
import { type Bench } from '@/store/benchState';
import { type EditOwner } from '@/store/edits/list';
import { matchReferences, type NamedReference } from '@/store/matchSides';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { useBenchParts, useProject } from '../benchContext';
import { pickFile } from '../pickFile';
import { EDITS_TEXT } from './text';

const FROM_FILE = 'file';

export interface ReferenceMenuProps {
  readonly at: EditOwner;
  /** what the button says */
  readonly label: string;
  /** names that are not offered */
  readonly without?: readonly string[];
  readonly onChoose: (reference: NamedReference) => void;
}

/** What something can be made like: what lies about it, a frame, or a picture from a file. */
export function ReferenceMenu({ at, label, without = [], onChoose }: ReferenceMenuProps) {
  const { bench } = useBenchParts();
  const references = matchReferences(useProject(), at).filter(({ name }) => !without.includes(name));
  const fromFile = async (): Promise<void> => {
    const chosen = await referenceFromFile(bench, at);
    if (chosen) onChoose(chosen);
  };
  return (
    <MenuTrigger>
      <Button>{label} ▾</Button>
      <ActionList
        label={label}
        items={[
          ...references.map(({ name }, i) => ({ id: String(i), name, note: '' })),
          { id: FROM_FILE, name: EDITS_TEXT.match.fromFile, note: '' },
        ]}
        onAction={(key) => {
          const chosen = references[Number(key)];
          if (key === FROM_FILE) void fromFile();
          else if (chosen) onChoose(chosen);
        }}
      />
    </MenuTrigger>
  );
}

/** Asks for a picture that is only to be looked like: it is kept with the project, and is no part of the picture. */
async function referenceFromFile(bench: Bench, at: EditOwner): Promise<NamedReference | undefined> {
  const file = await pickFile('image/*,.tif,.tiff,.exr,.hdr,.jxl,.avif');
  if (!file) return undefined;
  const read = async (): Promise<Uint8Array<ArrayBuffer>> => new Uint8Array(await file.arrayBuffer());
  const project = (): Project => bench.store.getState().history.project;
  const before = new Set(project().frames.map((f) => f.id));
  await addFiles(bench, [{ name: file.name, size: file.size, read }], 'references');
  const added = project().frames.find((f) => !before.has(f.id));
  return matchReferences(project(), at).find(
    ({ reference, name }) =>
      // one that was here already is taken by its name
      reference.kind === 'frame' && (added ? reference.frame === added.id : name === file.name),
  );
}
