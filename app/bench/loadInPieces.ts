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

/** What the screen of the bench can stand without at first. */
export function loadRest(): void {
  // what could not be loaded is asked for again where it is wanted
  inPieces([() => import('@/ui/chart/DrawnBars'), () => import('@/ui/chart/DrawnTones')]).catch(
    () => undefined,
  );
}

/** The screen of the bench. */
export async function loadScreen() {
  await inPieces([() => import('@/ui/controls/PickOne'), () => import('@/stations/layers/Panel')]);
  return import('./BenchScreen');
}
