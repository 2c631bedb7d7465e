export const dynamic = 'force-dynamic';

/** Says that the server answers. */
export function GET(): Response {
  return Response.json({ ok: true });
}
