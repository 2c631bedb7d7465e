export interface MergeOptions {
  readonly signal?: AbortSignal;
  /** share of the work done, 0…1 */
  readonly onProgress?: (done: number) => void;
}
