/** What a browser's store did not answer in time; it may never. */
class TimeoutError extends Error {
  constructor(seconds: number) {
    super(`no answer within ${seconds} s`);
    this.name = 'TimeoutError';
  }
}

/** An answer, or a failure when it does not come in time: a store on a full disk may never answer. */
export function within<T>(seconds: number, answer: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new TimeoutError(seconds)), seconds * 1000);
    answer.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
