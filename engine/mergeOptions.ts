/** What every merge in the pool takes: what ends it, and who is told how far it is. */
export interface MergeOptions {
  readonly signal?: AbortSignal;
  /** share of the work done, 0…1 */
  readonly onProgress?: (done: number) => void;
}
