'use client';
import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { problemSentence } from '@/core/proof/problem';
import { useBenchParts } from '@/stations/benchContext';
import { addFiles } from '@/store/addFiles';
import { loadProject, saveOriginal, saveProject } from '@/store/database';
import { importProject } from '@/store/importProject';

/** Files that systems leave in folders. */
const isSystemFile = (name: string): boolean =>
  name.startsWith('.') || /^(thumbs\.db|desktop\.ini)$/i.test(name);

/** Takes dropped or chosen files: pictures join this project, a project file opens beside it. */
export function useAddFiles(): (files: readonly File[]) => Promise<void> {
  const { bench } = useBenchParts();
  const router = useRouter();
  return useCallback(
    async (files) => {
      const packed = files.filter((f) => f.name.toLowerCase().endsWith('.zip'));
      const pictures = files
        .filter((f) => !packed.includes(f) && !isSystemFile(f.name))
        .map((f) => ({ name: f.name, read: async () => new Uint8Array(await f.arrayBuffer()) }));
      if (pictures.length > 0) await addFiles(bench, pictures, saveOriginal);
      for (const file of packed) {
        const { name } = file;
        try {
          const stored = await importProject(name, new Uint8Array(await file.arrayBuffer()), {
            has: async (id) => (await loadProject(id)) !== undefined,
            keep: saveOriginal,
            save: saveProject,
            newId: () => crypto.randomUUID(),
          });
          router.push(`/bench?project=${stored.id}`);
        } catch (thrown) {
          bench.actions.report(problemSentence(thrown, `Opening “${name}”`));
        }
      }
    },
    [bench, router],
  );
}
