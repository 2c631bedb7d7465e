import { type Followed } from './useFollowed';

/** A source whose followers hear of what a moving hand changes when the picture shows it. */
export interface PictureFirst<S> extends Followed<S> {
  /** the picture shows what was changed last */
  readonly shown: () => void;
}

/** milliseconds after which they hear of it all the same */
const AT_LATEST = 60;

/**
 * Panels are drawn once the picture is: their drawing would take a core from the workers, and the thread that lays their answer on the screen.
 * @param causeOf what a change comes of: steps of a movement wait for their picture and others with them, an act of the hand does not
 */
export function pictureFirst<S>(
  source: Followed<S>,
  causeOf: (now: S, before: S) => 'movement' | 'act' | 'other',
): PictureFirst<S> {
  const followers = new Set<() => void>();
  /** steps of the movement that the followers have not heard of */
  let steps = 0;
  let latest: ReturnType<typeof setTimeout> | undefined;
  let before = source.get();
  let end: (() => void) | undefined;
  const rest = (): void => {
    clearTimeout(latest);
    steps = 0;
  };
  const tell = (): void => {
    rest();
    for (const follower of [...followers]) follower();
  };
  const look = (): void => {
    const now = source.get();
    const cause = causeOf(now, before);
    before = now;
    if (cause === 'movement' && ++steps === 1) latest = setTimeout(tell, AT_LATEST);
    // what comes beside a movement, as that it is being saved, waits with it
    if (cause === 'act' || steps === 0) tell();
  };
  return {
    get: source.get,
    subscribe: (changed) => {
      if (followers.size === 0) {
        before = source.get();
        end = source.subscribe(look);
      }
      followers.add(changed);
      return () => {
        followers.delete(changed);
        if (followers.size > 0) return;
        end?.();
        rest();
      };
    },
    shown: () => {
      const mine = steps;
      if (mine === 0) return;
      // behind the frame that the picture is laid on; a further step has its own
      requestAnimationFrame(() =>
        setTimeout(() => {
          if (steps === mine) tell();
        }),
      );
    },
  };
}
