import { demoFile } from '../demoFolder';

export const dynamic = 'force-dynamic';

/** One frame of the demo set. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<{ file: string }> },
): Promise<Response> {
  const { file } = await params;
  const bytes = await demoFile(file);
  if (!bytes) return Response.json({ error: `The demo has no file “${file}”.` }, { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': file.endsWith('.png') ? 'image/png' : 'image/jpeg',
      'cache-control': 'no-cache',
    },
  });
}
