import { noiseSigma } from '../../capture/noise';
import { type Finding, judge } from '../../proof/finding';
import { type EncodedImage } from '../../raster/encodedImage';
import { findStars, isStarry, starWidth } from '../../register/stars/findStars';
import { skyBackground } from './skyBackground';

/**
 * Findings of a stack: noise against what the number of frames promises, samples that were turned down, stars against those of a frame, the
 * sky's gradient.
 * @param reference a frame of the stack @param rejected share of all samples, 0…1
 */
export function stackFindings(
  merged: EncodedImage,
  reference: EncodedImage,
  count: number,
  rejected: number,
): Finding[] {
  const [before, after] = [noiseSigma(reference), noiseSigma(merged)];
  const findings: Finding[] = [];
  if (before && after && before > 0) {
    const left = (100 * after) / before;
    const promised = 100 / Math.sqrt(count);
    findings.push(
      judge('merge.noiseGain', left / promised, {
        why: `Noise fell from ${(255 * before).toFixed(2)} to ${(255 * after).toFixed(2)} codes of 255, to ${Math.round(left)} %; ${count} frames promise ${Math.round(promised)} %.`,
      }),
    );
  }
  findings.push(judge('merge.rejected', 100 * rejected));
  const [single, stacked] = [findStars(reference), findStars(merged)];
  const [own, now] = [starWidth(single), starWidth(stacked)];
  if (isStarry(reference, single) && own && now) {
    findings.push(
      judge('merge.starWidth', now / own, {
        why: `Stars are ${now.toFixed(2)} px wide at half height; ${own.toFixed(2)} px in the reference.`,
      }),
      judge('merge.gradient', skyBackground(merged).range),
    );
  }
  return findings;
}
