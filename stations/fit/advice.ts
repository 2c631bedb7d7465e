import { LIMITS } from '@/core/proof/limits';
import { apartIn, fitOf, panoramaOf, referenceOf } from '@/core/recipe/setFrames';
import { BENDING_KINDS, setGraph, STILL_KINDS } from '@/core/recipe/setGraph';
import { type Frame, type SetScope } from '@/core/recipe/project';

/** What to do about the fit. */
export interface FitAdvice {
  readonly text: string;
  /** what can be done by pressing it, if anything */
  readonly action?:
    | { readonly kind: 'free' }
    | { readonly kind: 'bend'; readonly frame: Frame }
    | {
        readonly kind: 'leaveOut';
        readonly frame: Frame;
        /** the set may be no bracket but moments in different light */
        readonly orMoments: boolean;
        /** bending may lay it where no plane does */
        readonly orBend: boolean;
      };
}

/** The most useful thing to say about a fit; undefined while it is not made. */
export function fitAdvice(scope: SetScope): FitAdvice | undefined {
  const reference = referenceOf(scope);
  const used = scope.frames.filter((f) => f.used && f.id !== reference?.id);
  const fits = used.flatMap((frame) => {
    const fit = fitOf(scope, frame);
    return fit ? [{ frame, fit }] : [];
  });
  if (fits.length < used.length || fits.length === 0) return undefined;
  const lost = fits.find(({ fit }) => !fit.fitted);
  if (lost) {
    // what the file does not state may be light as well as exposure
    const orMoments = scope.set.kind === 'bracket' && lost.frame.facts.seconds === undefined;
    // frames of one size may be of one view with things near and far in it
    const [kind, { width, height }] = [scope.set.kind, lost.frame];
    const canBend = BENDING_KINDS.has(kind) && width === reference?.width && height === reference.height;
    const isBent = scope.set.bent?.includes(lost.frame.id) ?? false;
    const isTried = scope.made[setGraph(scope).bends.get(lost.frame.id) ?? ''] !== undefined;
    const nearFar = isTried
      ? ' Bending it did not lay it on the reference either.'
      : canBend && !isBent
        ? ' Where the camera itself moved, bending may lay it all the same.'
        : '';
    const light = orMoments
      ? ' Where the light has changed, as from noon to dusk, make the set moments: their edges are compared too.'
      : '';
    return {
      text: `“${lost.frame.file}” is left out of the merge: ${lost.fit.why}.${light}${nearFar} Work without it, or take another reference under Frames.`,
      action: { kind: 'leaveOut', frame: lost.frame, orMoments, orBend: canBend && !isBent },
    };
  }
  if (scope.set.kind === 'panorama') return panoramaAdvice(scope);
  if (scope.set.kind === 'developments')
    return { text: 'Developments of one exposure lie on each other as they are. Nothing to do here.' };
  const worst = fits.reduce((a, b) => (b.fit.residual.typical > a.fit.residual.typical ? b : a));
  const typical = worst.fit.residual.typical;
  if (scope.set.motion !== 'auto' && typical > LIMITS['fit.typical'].watch)
    return {
      text: `“${worst.frame.file}” stays ${typical.toFixed(2)} px off: the frames moved in more ways than you allow.`,
      action: { kind: 'free' },
    };
  const apart = fits
    .flatMap(({ frame }) => {
      const off = apartIn(scope, frame);
      return off && off.px > LIMITS['fit.parallax'].watch ? [{ frame, off }] : [];
    })
    .sort((a, b) => b.off.px - a.off.px)
    .at(0);
  if (apart)
    return {
      text: `A part of “${apart.frame.file}” is ${apart.off.px.toFixed(1)} px off though the rest fits: it is nearer or farther, or moved. Bending lays near and far on the reference at once; what moved is painted in from one frame under Layers.`,
      action: { kind: 'bend', frame: apart.frame },
    };
  if (worst.fit.residual.worst > LIMITS['fit.worst'].watch) {
    const { frame, fit } = worst;
    const off = `In one place “${frame.file}” is ${fit.residual.worst.toFixed(1)} px off`;
    // one that is bent already, or could not be, is not offered it again
    if (scope.set.bent?.includes(frame.id))
      return {
        text: `${off} though bending was asked for: something moved there, or is hidden. Look at the residual, then paint that place in from one frame under Layers.`,
      };
    if (STILL_KINDS.has(scope.set.kind))
      return {
        text: `${off}: near things shift against far ones, or something moved there. Bending lays near and far on the reference at once; what moved is painted in from one frame under Layers.`,
        action: { kind: 'bend', frame },
      };
    return {
      text: `${off}, most likely because something moved there. Look at the residual, then paint that place in from one frame under Layers.`,
    };
  }
  const lit = fits.find(({ fit }) => fit.by === 'edges');
  if (lit)
    return {
      text: `“${lit.frame.file}” is lit so differently that its tones tell nothing: edges were laid on edges, good to ${lit.fit.bound.toFixed(1)} px. The residual shows the light; look at Blink instead, at 1:1.`,
    };
  return {
    text: `All frames lie on each other within ${typical.toFixed(2)} px of typical error. Nothing to do here.`,
  };
}

function panoramaAdvice(scope: SetScope): FitAdvice | undefined {
  const pairs = panoramaOf(scope)?.fit.pairs ?? [];
  if (pairs.length === 0) return undefined;
  const parallax = Math.max(...pairs.map((p) => p.parallax));
  const overlap = Math.min(...pairs.map((p) => p.overlap));
  if (parallax >= LIMITS['fit.parallax'].watch)
    return {
      text: `Near things shift by up to ${parallax.toFixed(1)} px against far ones: the camera did not turn about its entrance pupil. The far view decides the fit, and seams are led around the rest; look along them under Merge. Next time slide the camera back on its rail.`,
    };
  if (100 * overlap < LIMITS['fit.pairOverlap'].watch)
    return {
      text: `Two frames share ${Math.round(100 * overlap)} % only. It holds here, but moving clouds or water may break it: shoot with about 30 % overlap.`,
    };
  return { text: 'All neighbours lie on each other. Nothing to do here.' };
}
