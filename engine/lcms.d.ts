/** The part of the colour engine that is used; the package brings no types. */
declare module 'lcms-wasm' {
  export interface Lcms {
    cmsOpenProfileFromMem: (bytes: Uint8Array, length: number) => number;
    cmsCloseProfile: (profile: number) => void;
    cmsCreate_sRGBProfile: () => number;
    cmsCreateXYZProfile: () => number;
    cmsGetColorSpaceASCII: (profile: number) => string;
    cmsCreateTransform: (
      from: number,
      fromFormat: number,
      to: number,
      toFormat: number,
      intent: number,
      flags: number,
    ) => number;
    cmsDoTransform: {
      (transform: number, codes: Uint8Array, count: number): Uint16Array;
      (transform: number, samples: Float32Array, count: number): Float32Array;
    };
  }
  export const instantiate: () => Promise<Lcms>;
  export const TYPE_RGB_8: number;
  export const TYPE_RGB_16: number;
  export const INTENT_RELATIVE_COLORIMETRIC: number;
}
