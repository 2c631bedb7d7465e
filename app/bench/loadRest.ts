/** What the screen of the bench can stand without at first. What could not be loaded is asked for again where it is wanted. */
export function loadRest(): void {
  for (const piece of [import('@/ui/chart/DrawnBars'), import('@/ui/chart/DrawnTones')])
    piece.catch(() => undefined);
}
