import { writeFileSync } from 'node:fs';
import { millAtDusk } from '@/tests/knownScene';
import { shootFrame } from '@/camera/shootBracket';
import { featurePoints } from '@/core/register/features/featurePoints';
import { linkable, linkFrames } from '@/core/register/features/linkFrames';
import { fitPanorama, type PanoramaPair } from '@/core/register/rotation/fitPanorama';
import { emptyImage, halveImage } from '@/core/raster/encodedImage';
import { planPanorama, panoramaTiles } from '@/core/merge/panorama/planPanorama';
import { chooseProjection } from '@/core/merge/panorama/canvas';
import { blendTile } from '@/core/merge/panorama/blendTile';
import { encodePng } from '@/core/codecs/write/encodePng';
const scene = millAtDusk();
const S = Number(process.argv[2] ?? 1);
const POSES = [
  { yaw: -18.2, pitch: 0.7, roll: 0.5 }, { yaw: -6.1, pitch: -0.8, roll: -0.9 }, { yaw: 6.3, pitch: 0.4, roll: 0.7 }, { yaw: 17.8, pitch: -0.5, roll: -0.3 } ];
const t = (name: string) => console.log(name, Math.round(performance.now()));
t('scene');
const shots = POSES.map((pose, i) => shootFrame(scene, { stops: 0.3*(i%2), pose }, i, { width: 480*S, height: 660*S, sceneField: 63, focalPx: 1180*S, gain: 1.2, seed: 5 }));
t('shot');
const f = shots.map((s) => featurePoints(s.image)); t('features'); console.log(f.map(x=>x.count));
const g = shots.map((s) => linkable(s.image)); t('grey');
const pairs: PanoramaPair[] = [];
for (let a = 0; a < 4; a++) for (let b = a + 1; b < 4; b++) { const l = linkFrames(g[a], f[a], g[b], f[b]); if (l) pairs.push({ a, b, ...l }); }
t('links');
const fit = fitPanorama(shots.map((s) => s.image), pairs, { reference: 1 }); t('bundle');
console.log(fit.lens, fit.pairs, chooseProjection(fit));
const levels = shots.map((s) => { const l = [s.image]; while (l[l.length - 1].width > 200) l.push(halveImage(l[l.length - 1])); return l; });
for (const kind of ['rectilinear', 'cylindrical'] as const) {
  const plan = planPanorama(levels, fit, kind); t('plan');
  console.log(plan.canvas, plan.gains);
  const out = emptyImage(plan.canvas.width, plan.canvas.height, 65535);
  for (const tile of panoramaTiles(plan.canvas)) blendTile(levels.map((l) => l[0]), fit, plan, tile, out);
  t('blend');
  writeFileSync(`/tmp/pano.${kind}.png`, encodePng(out));
  const lab = emptyImage(plan.gridWidth, plan.gridHeight, 255);
  plan.labels.forEach((l, i) => { lab.data[3*i] = l<0?0:60+60*l; lab.data[3*i+1]= l<0?0:200-50*l; lab.data[3*i+2]=128; });
  writeFileSync(`/tmp/labels.png`, encodePng(lab));
}
