/** The screen of the bench, in pieces as `loadLoader` says. */
export async function loadScreen() {
  const pieces = [import('@/ui/controls/PickOne'), import('@/stations/layers/Panel')];
  const screen = import('./BenchScreen');
  await Promise.all(pieces);
  return screen;
}
