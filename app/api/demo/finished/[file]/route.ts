import { finishedFile } from '../../demoFolder';

export const dynamic = 'force-dynamic';

/** The recipe of a finished demo set, or its small picture. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<{ file: string }> },
): Promise<Response> {
  const { file } = await params;
  const bytes = await finishedFile(file);
  if (!bytes)
    return Response.json({ error: `No finished demo set has the file “${file}”.` }, { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': file.endsWith('.json') ? 'application/json' : 'image/jpeg',
      'cache-control': 'no-cache',
    },
  });
}
