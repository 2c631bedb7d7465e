/** The part of the colour engine that the tests use; the package brings no types. */
declare module 'lcms-wasm' {
  export interface Lcms {
    cmsOpenProfileFromMem: (bytes: Uint8Array, length: number) => number;
    cmsCreate_sRGBProfile: () => number;
    cmsCreateTransform: (
      a: number,
      fa: number,
      b: number,
      fb: number,
      intent: number,
      flags: number,
    ) => number;
    cmsDoTransform: (t: number, codes: Uint8Array, count: number) => Uint16Array;
  }
  export const instantiate: () => Promise<Lcms>;
  export const TYPE_RGB_8: number;
  export const TYPE_RGB_16: number;
  export const INTENT_RELATIVE_COLORIMETRIC: number;
}
