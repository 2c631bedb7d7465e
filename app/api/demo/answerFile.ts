import { extname } from 'node:path';

/** A request to a folder whose addresses end in a file's name. */
export interface FileAsked {
  readonly params: Promise<{ readonly file: string }>;
}

const TYPES: Readonly<Record<string, string>> = {
  '.json': 'application/json',
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
};

/** Answers with the bytes of a file of the demo. @param read undefined for a name that is not one of its files */
export async function answerFile(
  { params }: FileAsked,
  read: (file: string) => Promise<Buffer | undefined>,
): Promise<Response> {
  const { file } = await params;
  const bytes = await read(file);
  if (!bytes) return Response.json({ error: `The demo has no file “${file}”.` }, { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': TYPES[extname(file)], 'cache-control': 'no-cache' },
  });
}
