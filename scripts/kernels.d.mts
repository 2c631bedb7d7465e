/** Compiles the kernels' sources; the module's bytes. */
export function compileKernels(): Promise<Uint8Array>;
