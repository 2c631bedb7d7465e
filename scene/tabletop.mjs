// Writes inc/table.inc: the planks of a kitchen table.
import fs from 'node:fs';
import { rng } from './exr.mjs';
import { Mesh, board } from './mesh.mjs';

/** Dark, middle and light tone of each kind of plank. */
const TONES = [
  ['.06,.035,.02', '.20,.12,.065', '.29,.185,.105'],
  ['.05,.03,.018', '.17,.10,.055', '.25,.155,.09'],
  ['.07,.042,.024', '.23,.145,.08', '.32,.21,.125'],
  ['.055,.032,.019', '.185,.11,.06', '.27,.17,.095'],
];

// the grain runs along a plank; across it no band is finer than 4 mm, so that its lines do not beat with the pixels
const grain = ([dark, middle, light]) => `texture{
 pigment{uv_mapping granite turbulence .06 scale<1.1,.07,1> color_map{[0 rgb<${dark}>][.42 rgb<${middle}>][.6 rgb<${light}>][.8 rgb<${middle}>][1 rgb<${dark}>]}}
 normal{uv_mapping granite .10 scale<.6,.05,1>}
 finish{diffuse .88 reflection{0,.3 fresnel on} specular .10 roughness .04 conserve_energy}}
texture{pigment{uv_mapping granite scale<.5,.02,1> color_map{[0 rgbt<.02,.013,.008,.35>][.2 rgbt<.03,.02,.012,1>][1 rgbt<.03,.02,.01,1>]}}}
texture{pigment{bozo scale .09 turbulence .8 color_map{[.55 rgbt<.03,.02,.012,1>][.85 rgbt<.03,.02,.012,.55>]}}}
// the ring that a wet mug left
texture{pigment{function{min(.999,abs(sqrt((x+.19)*(x+.19)+(z+.16)*(z+.16))-.0385+.0012*f_noise3d(x*60,0,z*60))*260+.7*f_noise3d(x*30,0,z*30))} color_map{[.28 rgbt<.03,.018,.01,.42>][.75 rgbt<.03,.018,.01,1>]}}}`;

const random = rng(5);
const table = new Mesh();
for (let z = -0.55; z < 0.62;) {
  const width = 0.13 + random() * 0.05;
  const lift = (random() - 0.5) * 0.001;
  const kind = Math.floor(random() * TONES.length);
  const middle = z + width / 2;
  board(
    table,
    random,
    [-1.3, -0.02, middle],
    [1.3, -0.02 + lift, middle],
    [0, 1, 0],
    width - 0.0025,
    0.04,
    kind,
    { wob: 0.0006, ch: 0.0025, seg: 0.2 },
  );
  z += width;
}
const names = TONES.map((_, i) => `T_Plank${i}`);
fs.mkdirSync('inc', { recursive: true });
fs.writeFileSync(
  'inc/table.inc',
  `${TONES.map((tones, i) => `#declare T_Plank${i}=${grain(tones)}\n`).join('')}
#declare O_Table=${table.pov(names, { uv: true })}
object{O_Table interior{ior 1.45}}
`,
);
