/** Length of a vector of two numbers. `Math.hypot` takes fifteen times as long, to be exact for numbers no picture has. */
export const length2 = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** Length of a vector of three numbers, as {@link length2}. */
export const length3 = (x: number, y: number, z: number): number => Math.sqrt(x * x + y * y + z * z);
