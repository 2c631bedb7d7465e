export interface ToneChartProps {
  readonly label: string;
  /** share of the pixels in each step of a third of a stop, from `first` stops on */
  readonly shares: readonly number[];
  /** stops from middle grey of the first share */
  readonly first: number;
}
