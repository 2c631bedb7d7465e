// Light of a frame on the grid on which movers are searched; see core/merge/movers/consistency.ts for its meaning.

/**
 * Means of `size` × `size` pixels for one row of cells, and how much of each cell clips or is dark.
 * @param src the first of `size` rows of interleaved codes, `width` pixels each; @param bytes 1 or 2 a code
 * @param table light of each code, 4 bytes each; @param low @param high codes beyond which a sample says little
 * @param light, red, blue out: `w` means; @param lost, dark out: `w` counts of pixels, floats too
 */
export function reduceLightRow(
  src: usize, bytes: i32, width: i32, size: i32, w: i32, table: usize, low: f32, high: f32,
  light: usize, red: usize, blue: usize, lost: usize, dark: usize,
): void {
  const inverse: f32 = 1 / <f32>(size * size);
  const first = <i32>ceil<f32>(low), last = <i32>floor<f32>(high);
  const step: usize = bytes == 1 ? 3 : 6;
  const stride = <usize>width * step;
  for (let x = 0; x < w; x++) {
    let sum: f32 = 0, reds: f32 = 0, blues: f32 = 0;
    let burnt = 0, black = 0;
    let p = src + <usize>(x * size) * step;
    for (let j = 0; j < size; j++, p += stride) {
      let q = p;
      for (let k = 0; k < size; k++, q += step) {
        let r: i32, g: i32, b: i32;
        if (bytes == 1) {
          r = <i32>load<u8>(q);
          g = <i32>load<u8>(q, 1);
          b = <i32>load<u8>(q, 2);
        } else {
          r = <i32>load<u16>(q);
          g = <i32>load<u16>(q, 2);
          b = <i32>load<u16>(q, 4);
        }
        const lr = load<f32>(table + (<usize>r << 2)), lb = load<f32>(table + (<usize>b << 2));
        sum += 0.25 * (lr + lb) + 0.5 * load<f32>(table + (<usize>g << 2));
        reds += lr;
        blues += lb;
        const burns = <i32>(r > last || g > last || b > last);
        burnt += burns;
        black += <i32>(r < first && g < first && b < first) & (burns ^ 1);
      }
    }
    const o = <usize>x << 2;
    store<f32>(light + o, sum * inverse);
    store<f32>(red + o, reds * inverse);
    store<f32>(blue + o, blues * inverse);
    store<f32>(lost + o, <f32>burnt);
    store<f32>(dark + o, <f32>black);
  }
}
