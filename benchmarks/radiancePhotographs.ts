import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { decodeImage } from '@/core/codecs/decodeImage';
import { halveImage } from '@/core/raster/halveImage';
import { emptyRaster } from '@/core/raster/raster';
import { srgbToLinear } from '@/core/raster/srgb';
import { nodePlatform } from '@/engine/nodePlatform';
import { LIT, radianceErrors } from '@/tests/radianceErrors';

// node radiancePhotographs.mjs PHOTOGRAPH…: the middle of each as the light of a scene, shot as a bracket and merged
console.log('| photograph | frames fitted | places | median error | worst |');
console.log('| --- | ---: | ---: | ---: | ---: |');
for (const file of process.argv.slice(2)) {
  let { image } = await decodeImage(file, new Uint8Array(readFileSync(file)), nodePlatform());
  // four codes or more make one: steps of eight bits would else be the error
  while (image.width >= 4 * LIT.width && image.height >= 4 * LIT.height) image = halveImage(image);
  image = halveImage(image);
  const light = emptyRaster(LIT.width, LIT.height, 3);
  const [left, top] = [(image.width - LIT.width) >> 1, (image.height - LIT.height) >> 1];
  for (let y = 0, o = 0; y < LIT.height; y++)
    for (let x = 0; x < LIT.width; x++, o++)
      for (let c = 0; c < 3; c++)
        light.planes[c][o] = srgbToLinear(
          image.data[3 * ((top + y) * image.width + left + x) + c] / image.white,
        );
  const { fitted, places, median, worst } = await radianceErrors(light);
  const percent = (v: number): string => `${(100 * v).toFixed(2)} %`;
  console.log(`| ${basename(file)} | ${fitted} of 5 | ${places} | ${percent(median)} | ${percent(worst)} |`);
}
