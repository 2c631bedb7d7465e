// The kernels of core/, compiled to WebAssembly SIMD by scripts/kernels.mjs. Every pointer is a byte offset into the module's own memory,
// which the host lays out (core/kernels/kernels.ts). Planes have 16 bytes of slack behind them: loads may read past the end.
export { warpLanczos, warpBilinear, warpGrid, splitPlanes } from './warp';
export { reduceLevel, addExpandedLevel, blendLevel } from './pyramid';
export { mertensWeights, featherWeights, normaliseAll, spreadCellRows, toBytes, toCodes16 } from './fusion';
export { luminancePlane, halveLuminancePlanes, logPlane, smoothPlane, scorePlane, pickPoints, scoreHistogram, tilePass } from './registration';
export { nearestTwo } from './matching';
export { gatherSpread, gatherColours, layBeside } from './gather';
export { denoisePlanes, sharpenPlanes, blurPlane } from './finish';
export { encodeOpenPlane, gainByTone, mixChannels, mixPlane, noisePlane, scaleChroma, scalePlane, throughTables, tintByTone, turnHues } from './edit';
export { blendColours, blendPlane, coverPlane } from './blend';
export { ellipsePlane, fadePlane, halveRow, joinPlane, opacityPlane, rangePlane, readBetween } from './mask';
export { layCodes, showPlanes } from './show';
export { mixRipples } from './ripples';
export { readPixels } from './sensor';
export { spreadCells, overlaySums, overlayDoubled } from './defocus';
export { decodePlane, encodePlane } from './transfer';
export { hideOutside, stackRow } from './stack';
export { meanPlane, guideMeans, guidedUnder, structurePlane } from './window';
export { greyRows, laplacianCells, layCells, ownShares, takeAnswers, aboveZero, blockMeans, settleShares, countLost, energyPlane, addBySalience, dividePlane } from './focus';
export { outlineWeights, settleWeights, fillOutside, clearUncovered } from './panorama';
export { slopePlanes, multiplyPlanes, cornerStrength } from './corners';
export { reduceLightRow } from './movers';
export { addRadiance, overTotal, layEncoded, tonePlane, toneMapPixels } from './radiance';
export { gatherPairs, sharePairs, multiplyMatte, stepMatte, turnMatte, sweepColours } from './matte';
