import type { Lcms } from 'lcms-wasm';
import { type OpenProfile, type ProfileOpener } from '@/core/colour/profile';

// lcms2.h: FLOAT_SH(1) | COLORSPACE_SH(space) | CHANNELS_SH(n) | BYTES_SH(4); PT_GRAY 3, PT_RGB 4, PT_CMYK 6, PT_XYZ 9
const format = (space: number, channels: number): number => (1 << 22) | (space << 16) | (channels << 3) | 4;
const XYZ = format(9, 3);
const SPACES = {
  GRAY: { space: 'grey', channels: 1, format: format(3, 1), scale: 1 },
  'RGB ': { space: 'rgb', channels: 3, format: format(4, 3), scale: 1 },
  // the engine counts ink in percent
  CMYK: { space: 'cmyk', channels: 4, format: format(6, 4), scale: 100 },
} as const;
const RELATIVE_COLORIMETRIC = 1;
/** largest profile that is looked at, bytes: the engine copies it onto its stack */
const LARGEST = 4e6;
/** cmsFLAGS_NOOPTIMIZE | cmsFLAGS_NOCACHE: full precision, unbounded */
const FLAGS = 0x0100 | 0x0040;

/** Opens embedded profiles with the colour engine, which is loaded when the first one is met. */
export function profileOpener(load: () => Promise<Lcms>): ProfileOpener {
  return async (bytes) => {
    if (bytes.length < 128 || bytes.length > LARGEST) return undefined;
    const lcms = await load();
    const profile = lcms.cmsOpenProfileFromMem(bytes.slice(), bytes.length);
    if (!profile) return undefined;
    const name = lcms.cmsGetColorSpaceASCII(profile).padEnd(4);
    const kind = Object.entries(SPACES).find(([key]) => key === name)?.[1];
    if (!kind) return undefined;
    const xyz = lcms.cmsCreateXYZProfile();
    const transform = lcms.cmsCreateTransform(profile, kind.format, xyz, XYZ, RELATIVE_COLORIMETRIC, FLAGS);
    // the transform keeps what it needs of both
    lcms.cmsCloseProfile(profile);
    lcms.cmsCloseProfile(xyz);
    if (!transform) return undefined;
    const open: OpenProfile = {
      space: kind.space,
      toXyz: (device) => {
        const scaled = kind.scale === 1 ? device : device.map((v) => v * kind.scale);
        return lcms.cmsDoTransform(transform, scaled, scaled.length / kind.channels);
      },
    };
    return open;
  };
}
