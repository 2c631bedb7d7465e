import { demoManifest, finishedSets } from './demoFolder';

export const dynamic = 'force-dynamic';

/** The demo sets: title, task, and where their files are. */
export async function GET(): Promise<Response> {
  const manifest = await demoManifest();
  if (!manifest)
    return Response.json(
      { error: 'The demo frames have not been shot. Run “npm run demo:shoot”.' },
      { status: 404 },
    );
  const finished = new Set(await finishedSets());
  return Response.json({
    sets: manifest.sets.map(({ id, title, about, task, files }) => ({
      id,
      title,
      about,
      task,
      frames: files.map((file) => ({ file, url: `/api/demo/${file}` })),
      ...(finished.has(id)
        ? { finished: { recipe: `/api/demo/finished/${id}.json`, picture: `/api/demo/finished/${id}.jpg` } }
        : {}),
    })),
  });
}
