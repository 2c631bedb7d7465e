export interface BarChartProps {
  /** what is shown, for those who cannot see it */
  readonly label: string;
  readonly bars: readonly { readonly name: string; readonly value: number; readonly colour?: string }[];
  /** end of the scale */
  readonly max: number;
  /** a line to stay below */
  readonly limit?: number;
  readonly format: (value: number) => string;
}
