'use client';
import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { useBenchParts } from '@/stations/benchContext';
import { addFiles } from '@/store/addFiles';
import { benchAddress } from '@/store/benchAddress';
import { importProject } from '@/store/importProject';
import { PROJECT_SHELF } from '@/store/projectShelf';

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
        .map((f) => ({
          name: f.name,
          size: f.size,
          read: async () => new Uint8Array(await f.arrayBuffer()),
        }));
      if (pictures.length > 0) await addFiles(bench, pictures);
      for (const file of packed) {
        const stored = await bench.actions.during(`Opening “${file.name}”`, (signal, onProgress) =>
          importProject(bench.pool, file.name, file, PROJECT_SHELF, { signal, onProgress }),
        );
        if (stored) router.push(benchAddress(stored.id));
      }
    },
    [bench, router],
  );
}
