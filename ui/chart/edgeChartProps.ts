export interface EdgeChartProps {
  readonly label: string;
  /** distances from the edge, pixels, negative inside */
  readonly at: readonly number[];
  /** stops; half of all places lie between `low` and `high` */
  readonly tone: readonly number[];
  readonly low: readonly number[];
  readonly high: readonly number[];
}
