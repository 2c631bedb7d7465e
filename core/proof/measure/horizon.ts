/** A long, nearly level line of the picture. */
export interface Horizon {
  /** degrees, positive when it falls to the right */
  readonly tilt: number;
  /** share of the picture's width that it runs along */
  readonly length: number;
  /** its height in the middle of the picture, pixels */
  readonly y: number;
}

const WIDEST = 6;
const STEP = 0.1;
/** height of a line's bin, pixels */
const BIN = 1.5;
/** share of the width below which no line counts as the horizon */
const LEAST_LENGTH = 0.4;

/**
 * Finds the longest nearly level edge by a Hough vote over −6…6° (Duda & Hart 1972): every column votes at most once a line.
 * @param luma encoded 0…1
 */
export function horizonOf(luma: Float32Array, width: number, height: number): Horizon | undefined {
  const points: { x: number; y: number }[] = [];
  for (let x = 1; x < width - 1; x += Math.max(1, Math.floor(width / 500)))
    for (let y = 2; y < height - 2; y++) {
      const i = y * width + x;
      const gy = luma[i + width] - luma[i - width];
      const gx = luma[i + 1] - luma[i - 1];
      const size = Math.abs(gy);
      const peak =
        size >= Math.abs(luma[i] - luma[i - 2 * width]) && size >= Math.abs(luma[i + 2 * width] - luma[i]);
      if (size > 0.05 && Math.abs(gx) < 0.3 * size && peak) points.push({ x, y });
    }
  const columns = new Set(points.map((p) => p.x)).size;
  const all = Math.floor((width - 2) / Math.max(1, Math.floor(width / 500)));
  if (points.length < 0.3 * all || columns < LEAST_LENGTH * all) return undefined;
  let best: Horizon = { tilt: 0, length: 0, y: 0 };
  const middle = (width - 1) / 2;
  // the steepest line leaves the picture so many bins above and below
  const margin = Math.ceil((Math.tan((WIDEST * Math.PI) / 180) * middle) / BIN) + 1;
  const votes = new Uint32Array(Math.ceil(height / BIN) + 2 * margin + 1);
  const lastColumn = new Int32Array(votes.length);
  for (let angle = -WIDEST; angle <= WIDEST + 1e-9; angle += STEP) {
    const rise = Math.tan((angle * Math.PI) / 180);
    votes.fill(0);
    lastColumn.fill(-1);
    for (const { x, y } of points) {
      const at = Math.round((y - rise * (x - middle)) / BIN) + margin;
      // points come column by column
      if (lastColumn[at] === x) continue;
      lastColumn[at] = x;
      votes[at]++;
    }
    for (let at = 0; at < votes.length; at++) {
      const length = votes[at] / all;
      if (length > best.length + 1e-9) best = { tilt: angle, length, y: (at - margin) * BIN };
    }
  }
  return best.length >= LEAST_LENGTH ? refined(best, points, middle) : undefined;
}

/** The line of least squares through the points near a voted line. */
function refined(line: Horizon, points: readonly { x: number; y: number }[], middle: number): Horizon {
  let rise = Math.tan((line.tilt * Math.PI) / 180);
  let { y: at } = line;
  for (const near of [3, 1.6]) {
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
    for (const p of points) {
      const x = p.x - middle;
      if (Math.abs(p.y - at - rise * x) > near) continue;
      n++;
      sx += x;
      sy += p.y;
      sxx += x * x;
      sxy += x * p.y;
    }
    const det = n * sxx - sx * sx;
    if (n < 10 || det <= 0) break;
    rise = (n * sxy - sx * sy) / det;
    at = (sy - rise * sx) / n;
  }
  return { ...line, tilt: (Math.atan(rise) * 180) / Math.PI, y: at };
}
