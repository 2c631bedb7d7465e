/**
 * A function of a value that is made anew only when something it depends on is another object or value; the last result is kept.
 * @param depends what the result follows from
 */
export function remember<I, O>(
  make: (input: I) => O,
  depends: (input: I) => readonly unknown[],
): (input: I) => O {
  let last: { readonly on: readonly unknown[]; readonly made: O } | undefined;
  return (input) => {
    const on = depends(input);
    if (!last || last.on.length !== on.length || on.some((v, i) => !Object.is(v, last?.on[i])))
      last = { on, made: make(input) };
    return last.made;
  };
}
