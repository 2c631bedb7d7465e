import { demoManifest } from './demoFolder';

export const dynamic = 'force-dynamic';

/** The demo set: its title and where its files are. */
export async function GET(): Promise<Response> {
  const manifest = await demoManifest();
  if (!manifest)
    return Response.json(
      { error: 'The demo frames have not been shot. Run “npm run demo:shoot”.' },
      { status: 404 },
    );
  const { title, files } = manifest;
  return Response.json({ title, frames: files.map((file) => ({ file, url: `/api/demo/${file}` })) });
}
