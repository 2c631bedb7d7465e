// Nearest neighbours of feature descriptors.

/**
 * For each of `n` descriptors the largest and the second largest dot product with `m` others, and for each of those with the first: index,
 * first, second, as three 32-bit numbers. Descriptors are 128 numbers of 16 bits.
 */
export function nearestTwo(a: usize, n: i32, b: usize, m: i32, out: usize, back: usize): void {
  for (let j = 0; j < m; j++) {
    const r = back + <usize>j * 12;
    store<i32>(r, -1);
    store<i32>(r, -0x7fffffff, 4);
    store<i32>(r, -0x7fffffff, 8);
  }
  for (let i = 0; i < n; i++) {
    const p = a + (<usize>i << 8);
    let first: i32 = -0x7fffffff, second: i32 = -0x7fffffff, index: i32 = -1;
    let q = b, r = back;
    for (let j = 0; j < m; j++) {
      let s = i32x4.dot_i16x8_s(v128.load(p), v128.load(q));
      let t = i32x4.dot_i16x8_s(v128.load(p, 16), v128.load(q, 16));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 32), v128.load(q, 32)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 48), v128.load(q, 48)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 64), v128.load(q, 64)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 80), v128.load(q, 80)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 96), v128.load(q, 96)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 112), v128.load(q, 112)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 128), v128.load(q, 128)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 144), v128.load(q, 144)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 160), v128.load(q, 160)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 176), v128.load(q, 176)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 192), v128.load(q, 192)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 208), v128.load(q, 208)));
      s = i32x4.add(s, i32x4.dot_i16x8_s(v128.load(p, 224), v128.load(q, 224)));
      t = i32x4.add(t, i32x4.dot_i16x8_s(v128.load(p, 240), v128.load(q, 240)));
      s = i32x4.add(s, t);
      const v =
        i32x4.extract_lane(s, 0) + i32x4.extract_lane(s, 1) + i32x4.extract_lane(s, 2) + i32x4.extract_lane(s, 3);
      if (v > first) {
        second = first;
        first = v;
        index = j;
      } else if (v > second) second = v;
      if (v > load<i32>(r, 4)) {
        store<i32>(r, load<i32>(r, 4), 8);
        store<i32>(r, v, 4);
        store<i32>(r, i);
      } else if (v > load<i32>(r, 8)) store<i32>(r, v, 8);
      q += 256;
      r += 12;
    }
    store<i32>(out, index);
    store<i32>(out, first, 4);
    store<i32>(out, second, 8);
    out += 12;
  }
}
