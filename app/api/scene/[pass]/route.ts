import { readFile } from 'node:fs/promises';
import { join } from 'node:path';

export const dynamic = 'force-dynamic';

const FOLDER = join(process.cwd(), 'scene', 'renders');

/** One strip of a rendered pass of the stand-in scene, such as `mill.sky.0.exr`. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<{ pass: string }> },
): Promise<Response> {
  const { pass } = await params;
  const known = /^((mill|round|mugs|samphire)\.[a-z]{1,8}|plate\.walker-[1-4])\.\d{1,2}\.exr$/.test(pass);
  const bytes = known ? await readFile(join(FOLDER, pass)).catch(() => undefined) : undefined;
  if (!bytes) return Response.json({ error: `The scene has no strip “${pass}”.` }, { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': 'image/x-exr', 'cache-control': 'max-age=3600' },
  });
}
