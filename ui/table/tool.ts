/** One sample of a drawing pointer: picture pixels (edges) and pressure 0…1. */
export interface ToolPoint {
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
  /** the hand asks for a straight line */
  readonly straight?: boolean;
}

/** A tool that takes the pointer instead of panning. */
export interface Tool {
  readonly onStart: (point: ToolPoint) => void;
  readonly onMove: (points: readonly ToolPoint[]) => void;
  readonly onEnd: () => void;
}
