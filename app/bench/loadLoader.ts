/**
 * What opens a project. Code is evaluated as a whole when it has come: libraries and bench in one go would hold the page for a fifth of a
 * second. What is asked for in several pieces comes, and is evaluated, piece by piece; what comes later finds the libraries that it shares evaluated.
 */
export async function loadLoader() {
  // a browser loads its tables of languages when they are first asked for; a task of its own, while the pieces are under way
  setTimeout(() => Intl.DateTimeFormat.supportedLocalesOf(navigator.language));
  const pieces = [import('@/ui/controls/Button')];
  const loader = import('./BenchLoader');
  await Promise.all(pieces);
  return (await loader).BenchLoader;
}
