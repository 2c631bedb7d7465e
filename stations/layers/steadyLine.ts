/** A point that a line is drawn through, and how hard the hand presses there. */
export interface Drawn {
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
}

/**
 * Draws the end of a line after the hand as by a string of a given length: it moves only while the string is taut, and then towards the hand,
 * so that a tremble shorter than the string leaves no trace.
 * @param end where the line ends now
 * @param hand where the hand is
 * @param length of the string, in the unit of the points
 */
export function pulled(end: Drawn, hand: Drawn, length: number): Drawn {
  const [dx, dy] = [hand.x - end.x, hand.y - end.y];
  const distance = Math.hypot(dx, dy);
  const share = distance > length ? (distance - length) / distance : 0;
  return { x: end.x + share * dx, y: end.y + share * dy, pressure: hand.pressure };
}
