// Renders the scene anew: sky, geometry, one ray-traced picture a light and one of depth, then air and glare.
// About two CPU hours; needs POV-Ray 3.7 and its includes from Debian's packages. The results are committed, so nobody has to.
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const here = fileURLToPath(new URL('.', import.meta.url));
const work = `${here}build/`;
const THREADS = 2;
const SMOOTH = ['+A0.12', '+AM2', '+R2', 'Declare=NDOME=10'];
const lights = (sky, sun, lamp) => [`Declare=SKY=${sky}`, `Declare=SUN=${sun}`, `Declare=LAMP=${lamp}`];
const DEPTH = ['-A', 'Declare=DEPTH=600', ...lights(0, 0, 0)];
const ROUND = ['Declare=PANO=1', 'Declare=SPANX=200', 'Declare=SPANY=60'];

/** What is rendered: the mill, light by light, and the marsh all round it in one light. */
const VIEWS = [
  {
    name: 'mill',
    field: 'flat',
    size: [2100, 1400],
    passes: {
      z: DEPTH,
      sky: [...SMOOTH, ...lights(1, 0, 0)],
      sun: [...SMOOTH, ...lights(0, 1, 0)],
      lamp: [...SMOOTH, ...lights(0, 0, 1)],
      stand: [...SMOOTH, 'Declare=STAND=1', ...lights(0, 0, 0)],
    },
  },
  {
    name: 'round',
    field: 'round',
    size: [3150, 945],
    passes: {
      z: [...DEPTH, ...ROUND],
      all: ['+A0.15', '+AM2', '+R2', 'Declare=NDOME=8', ...ROUND, ...lights(0.3, 0.22, 1.6)],
    },
  },
];

const run = (command, ...args) =>
  execFileSync(command, args, { cwd: work, stdio: ['ignore', 'inherit', 'inherit'] });

rmSync(work, { recursive: true, force: true });
mkdirSync(`${work}inc`, { recursive: true });
for (const file of ['mill.pov', 'materials.inc']) copyFileSync(here + file, work + file);
run('node', `${here}sky.mjs`, '4096', 'sky.exr');
run('node', `${here}sky.mjs`, '1024', 'sky1k.exr');
run('node', `${here}geometry.mjs`);
for (const { name, field, size, passes } of VIEWS) {
  for (const [pass, options] of Object.entries(passes))
    run(
      'povray',
      '+Imill.pov',
      `+O${name}.${pass}.exr`,
      '+FE',
      `+W${size[0]}`,
      `+H${size[1]}`,
      `+WT${THREADS}`,
      '-D',
      ...options,
    );
  const lit = Object.keys(passes).filter((pass) => pass !== 'z');
  run('node', `${here}bake.mjs`, name, `${here}renders/${name}`, field, ...lit);
}
