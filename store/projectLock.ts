/** A hold on a project: while a tab has it, no other tab writes the project. */
export interface ProjectHold {
  readonly release: () => void;
  /** settles when another tab has taken the project over */
  readonly lost: Promise<void>;
}

const never = new Promise<void>(() => undefined);

/**
 * Takes hold of a project by the Web Locks of the browser.
 * @param steal takes it over from the tab that has it
 * @returns undefined when another tab has it; a hold without guard where the browser has no locks
 */
export function holdProject(id: string, steal = false): Promise<ProjectHold | undefined> {
  const locks = typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined);
  if (!locks) return Promise.resolve({ release: () => undefined, lost: never });
  return new Promise((resolve, reject) => {
    let release: () => void = () => undefined;
    let takenOver: () => void = () => undefined;
    const lost = new Promise<void>((settle) => (takenOver = settle));
    const held = new Promise<void>((settle) => (release = settle));
    let got = false;
    locks
      .request(`marsh.project.${id}`, steal ? { steal: true } : { ifAvailable: true }, (lock) => {
        if (!lock) return resolve(undefined);
        got = true;
        resolve({ release, lost });
        return held;
      })
      .catch((thrown: unknown) => {
        // a stolen lock ends its request with an error
        if (got) takenOver();
        else reject(thrown instanceof Error ? thrown : new Error(String(thrown)));
      });
  });
}
