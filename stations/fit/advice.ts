import { LIMITS } from '@/core/proof/limits';
import { fitOf, type Frame, type Project, referenceOf } from '@/core/recipe/project';

/** What to do about the fit. */
export interface FitAdvice {
  readonly text: string;
  /** the one action, if any */
  readonly action?: { readonly kind: 'free' } | { readonly kind: 'leaveOut'; readonly frame: Frame };
}

/** The most useful thing to say about a fit; undefined while it is not made. */
export function fitAdvice(project: Project): FitAdvice | undefined {
  const reference = referenceOf(project);
  const used = project.frames.filter((f) => f.used && f.id !== reference?.id);
  const fits = used.flatMap((frame) => {
    const fit = fitOf(project, frame);
    return fit ? [{ frame, fit }] : [];
  });
  if (fits.length < used.length || fits.length === 0) return undefined;
  const lost = fits.find(({ fit }) => !fit.fitted);
  if (lost)
    return {
      text: `“${lost.frame.file}” is left out of the merge: ${lost.fit.why}. Work without it, or take another reference under Frames.`,
      action: { kind: 'leaveOut', frame: lost.frame },
    };
  const worst = fits.reduce((a, b) => (b.fit.residual.typical > a.fit.residual.typical ? b : a));
  const typical = worst.fit.residual.typical;
  if (project.set.motion !== 'auto' && typical > LIMITS['fit.typical'].watch)
    return {
      text: `“${worst.frame.file}” stays ${typical.toFixed(2)} px off: the frames moved in more ways than you allow.`,
      action: { kind: 'free' },
    };
  if (worst.fit.residual.worst > LIMITS['fit.worst'].watch)
    return {
      text: `In one place “${worst.frame.file}” is ${worst.fit.residual.worst.toFixed(1)} px off, most likely because something moved there. Look at the residual, then paint that place in from one frame under Layers.`,
    };
  return {
    text: `All frames lie on each other within ${typical.toFixed(2)} px of typical error. Nothing to do here.`,
  };
}
