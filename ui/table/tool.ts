/** A point of the picture, pixel edges. */
export interface PicturePoint {
  readonly x: number;
  readonly y: number;
}

/** One sample of a drawing pointer, and its pressure 0…1. */
export interface ToolPoint extends PicturePoint {
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
