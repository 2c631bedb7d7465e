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
  /** what was begun is to be as if it had not been: a second finger came down, and both move the picture. Ended where there is none */
  readonly onCancel?: () => void;
}
