'use client';
import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { problemSentence } from '@/core/proof/problem';
import { useBenchParts } from '@/stations/benchContext';
import { addFiles } from '@/store/addFiles';
import { loadProject, saveOriginal, saveProject } from '@/store/database';
import { importProject } from '@/store/importProject';

/** Takes dropped or chosen files: pictures join this project, a project file opens beside it. */
export function useAddFiles(): (files: readonly File[]) => Promise<void> {
  const { bench } = useBenchParts();
  const router = useRouter();
  return useCallback(
    async (files) => {
      const read = await Promise.all(
        files.map(async (file) => ({ name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) })),
      );
      const packed = read.filter((f) => f.name.toLowerCase().endsWith('.zip'));
      const pictures = read.filter((f) => !packed.includes(f));
      if (pictures.length > 0) await addFiles(bench, pictures, saveOriginal);
      for (const { name, bytes } of packed)
        try {
          const stored = await importProject(name, bytes, {
            has: async (id) => (await loadProject(id)) !== undefined,
            keep: saveOriginal,
            save: saveProject,
            newId: () => crypto.randomUUID(),
          });
          router.push(`/bench?project=${stored.id}`);
        } catch (thrown) {
          bench.actions.report(problemSentence(thrown, `Opening “${name}”`));
        }
    },
    [bench, router],
  );
}
