import { type Bench } from './benchState';
import { savePreview } from './database';
import { previewJpeg } from './deliver';

const QUIET_MS = 900;

/** Keeps the shelf's preview up to date: a while after the finished picture last changed. Returns a function that stops it. */
export function keepPreview(bench: Bench): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const stop = bench.store.subscribe((state, before) => {
    if (state.finished === before.finished || !state.finished) return;
    clearTimeout(timer);
    timer = setTimeout(() => {
      // a preview that could not be made or kept is made again with the next change
      previewJpeg(bench)
        .then((preview) => preview && savePreview(state.history.project.id, preview))
        .catch(() => undefined);
    }, QUIET_MS);
  });
  return () => {
    clearTimeout(timer);
    stop();
  };
}
