/** Where a project is on the bench; identities come from files and may hold any character. */
export function benchAddress(id: string): string {
  return `/bench?project=${encodeURIComponent(id)}`;
}
