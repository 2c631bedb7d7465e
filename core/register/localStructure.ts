import { type Kernels, kernels } from '../kernels/kernels';
import { plainBoxMean, roomFor } from '../raster/boxMean';
import { type Representation } from './logLuminance';

/** deviation that is added before it is divided out, so that even places do not become all noise */
const LEAST_DEVIATION = 0.1;
/** a window of which less holds something has no mean */
const LEAST_HELD = 0.1;

/**
 * Structure alone: the local mean over a window of radius r taken away and, with `divide`, the local deviation (+0.1) divided out,
 * so that tone and exposure no longer matter.
 */
export function localStructure(rep: Representation, radius: number, divide: boolean): Representation {
  const k = kernels();
  return k ? compiledStructure(k, rep, radius, divide) : plainStructure(rep, radius, divide);
}

function compiledStructure(k: Kernels, rep: Representation, radius: number, divide: boolean): Representation {
  const { width, height, valid } = rep;
  const n = width * height;
  const { plane, column } = roomFor(width, height);
  return k.borrow(() => {
    const [value, variance, held] = [rep.value, rep.variance, valid].map((p) => k.upload(p));
    const scratch = k.take(5 * plane);
    k.structurePlane(
      ...[value, variance, held, width, height, radius, divide ? 1 : 0, LEAST_DEVIATION, LEAST_HELD],
      ...[scratch, plane, k.take(column)],
    );
    return {
      width,
      height,
      value: k.floats(value, n).slice(),
      variance: k.floats(variance, n).slice(),
      valid,
    };
  });
}

/** The plain form of {@link localStructure}, which the kernel is held against. */
export function plainStructure(rep: Representation, radius: number, divide: boolean): Representation {
  const { width, height, value, valid, variance } = rep;
  const first = value.map((v, i) => valid[i] * v);
  const second = value.map((v, i) => first[i] * v);
  const [count, mean, square] = [valid, first, second].map((p) => plainBoxMean(p, width, height, radius));
  const out = new Float32Array(value.length);
  const noise = new Float32Array(value.length);
  for (let i = 0; i < out.length; i++) {
    const k = count[i] > LEAST_HELD ? 1 / count[i] : 0;
    const m = mean[i] * k;
    const s = divide ? 1 / (Math.sqrt(Math.max(0, square[i] * k - m * m)) + LEAST_DEVIATION) : 1;
    out[i] = (value[i] - m) * s;
    noise[i] = variance[i] * s * s;
  }
  return { width, height, value: out, variance: noise, valid };
}
