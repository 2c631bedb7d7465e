import { type MergedState } from '@/store/benchState';

/** Mean share of each merged frame in the picture, 0…1, by frame id. */
export function meanShares(merged: MergedState | undefined): ReadonlyMap<string, number> {
  const shares = new Map<string, number>();
  merged?.scene.frames.forEach((frame, f) => {
    const plane = merged.scene.shares[f];
    let sum = 0;
    let n = 0;
    for (let i = 0; i < plane.length; i += 7, n++) sum += plane[i];
    shares.set(frame, sum / n / 255);
  });
  return shares;
}
