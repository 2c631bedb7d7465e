import { demoManifest } from './demoFolder';

export const dynamic = 'force-dynamic';

/** The demo sets: title, task, and where their files are. */
export async function GET(): Promise<Response> {
  const manifest = await demoManifest();
  if (!manifest)
    return Response.json(
      { error: 'The demo frames have not been shot. Run “npm run demo:shoot”.' },
      { status: 404 },
    );
  return Response.json({
    sets: manifest.sets.map(({ id, title, about, task, files }) => ({
      id,
      title,
      about,
      task,
      frames: files.map((file) => ({ file, url: `/api/demo/${file}` })),
    })),
  });
}
