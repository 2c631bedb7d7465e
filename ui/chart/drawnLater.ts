import { type ComponentType, lazy } from 'react';

/** A drawing whose code comes later; where it cannot be loaded its frame stays empty, and the frame's name still tells the values. */
export const drawnLater = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy<ComponentType<P>>(() =>
    load().then(
      (drawn) => ({ default: drawn }),
      () => ({ default: () => null }),
    ),
  );
