// Renders the scene anew: sky, geometry, one ray-traced picture a light and one of depth, then air and glare.
// About 70 CPU minutes; needs POV-Ray 3.7 from Debian's packages. The results are committed, so nobody has to.
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const here = fileURLToPath(new URL('.', import.meta.url));
const work = `${here}build/`;
const [WIDTH, HEIGHT] = [2100, 1400];
const THREADS = 2;
const ANTIALIAS = ['+A0.12', '+AM2', '+R2', 'Declare=NDOME=10'];
const PASSES = {
  z: ['-A', 'Declare=DEPTH=600', 'Declare=SKY=0', 'Declare=SUN=0', 'Declare=LAMP=0'],
  sky: [...ANTIALIAS, 'Declare=SKY=1', 'Declare=SUN=0', 'Declare=LAMP=0'],
  sun: [...ANTIALIAS, 'Declare=SKY=0', 'Declare=SUN=1', 'Declare=LAMP=0'],
  lamp: [...ANTIALIAS, 'Declare=SKY=0', 'Declare=SUN=0', 'Declare=LAMP=1'],
};

const run = (command, ...args) =>
  execFileSync(command, args, { cwd: work, stdio: ['ignore', 'inherit', 'inherit'] });

rmSync(work, { recursive: true, force: true });
mkdirSync(`${work}inc`, { recursive: true });
for (const file of ['mill.pov', 'materials.inc']) copyFileSync(here + file, work + file);
run('node', `${here}sky.mjs`, '4096', 'sky.exr');
run('node', `${here}sky.mjs`, '1024', 'sky1k.exr');
run('node', `${here}geometry.mjs`);
for (const [pass, options] of Object.entries(PASSES))
  run(
    'povray',
    '+Imill.pov',
    `+Omill.${pass}.exr`,
    '+FE',
    `+W${WIDTH}`,
    `+H${HEIGHT}`,
    `+WT${THREADS}`,
    '-D',
    ...options,
  );
run('node', `${here}bake.mjs`, 'mill', `${here}renders/mill`);
