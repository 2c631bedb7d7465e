/** Waits until the page has done what else there was to do. */
const free = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/**
 * Loads pieces of code one after the other. Code is evaluated as a whole when it is asked for: libraries and bench in one go would hold
 * the page for a fifth of a second.
 */
async function inPieces(pieces: readonly (() => unknown)[]): Promise<void> {
  for (const piece of pieces) {
    await piece();
    await free();
  }
}

/** What opens a project; its workers start before the rest is here. */
export async function loadLoader() {
  await inPieces([
    // a browser loads its tables of languages when they are first asked for
    () => Intl.DateTimeFormat.supportedLocalesOf(navigator.language),
    () => import('@/core/recipe/parseProject'),
    () => import('@/ui/controls/Button'),
  ]);
  return (await import('./BenchLoader')).BenchLoader;
}

/** The screen of the bench. */
export async function loadScreen() {
  await inPieces([
    () => import('@/ui/controls/PickOne'),
    () => import('@/ui/chart/BarChart'),
    () => import('@/stations/layers/Panel'),
  ]);
  return import('./BenchScreen');
}
