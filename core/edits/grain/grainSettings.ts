/** Grain as of film or a sensor, the same at the same place. */
export interface GrainSettings {
  /** standard deviation in the mean over all levels, codes of 255 */
  readonly strength: number;
  /** the same at even levels from black to white, against the mean */
  readonly shape: readonly number[];
  /** sigma of the Gaussian that white noise is blurred by, full-size pixels */
  readonly size: number;
  /** how far the channels differ: 0 all alike, 1 each by itself */
  readonly colour: number;
}
