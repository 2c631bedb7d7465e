// Renders the scene anew: sky, geometry, one ray-traced picture a light and one of depth, then air and glare.
// About three CPU hours; needs POV-Ray 3.7 and its includes from Debian's packages. The results are committed, so nobody has to.
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const here = fileURLToPath(new URL('.', import.meta.url));
const work = `${here}build/`;
const THREADS = 2;
const EVEN = ['+A0.12', '+AM2', '+R2'];
const SMOOTH = [...EVEN, 'Declare=NDOME=10'];
const ROUGH = ['+A0.15', '+AM2', '+R2', 'Declare=NDOME=8'];
const lights = (sky, sun, lamp) => [`Declare=SKY=${sky}`, `Declare=SUN=${sun}`, `Declare=LAMP=${lamp}`];
const depth = (metres, ...off) => ['-A', `Declare=DEPTH=${metres}`, ...off.map((l) => `Declare=${l}=0`)];
const DEPTH = depth(600, 'SKY', 'SUN', 'LAMP');
const ROUND = ['Declare=PANO=1', 'Declare=SPANX=200', 'Declare=SPANY=60'];

/** What is rendered, light by light: the mill, the marsh all round it, a table-top, a samphire. */
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
      sky: [...ROUGH, ...ROUND, ...lights(1, 0, 0)],
      sun: [...ROUGH, ...ROUND, ...lights(0, 1, 0)],
      lamp: [...ROUGH, ...ROUND, ...lights(0, 0, 1)],
    },
  },
  {
    name: 'mugs',
    field: 'near',
    size: [1680, 1120],
    passes: {
      z: depth(2, 'WINDOW', 'LAMP'),
      window: [...EVEN, 'Declare=LAMP=0'],
      lamp: [...EVEN, 'Declare=WINDOW=0'],
    },
  },
  {
    name: 'samphire',
    field: 'near',
    size: [1680, 1120],
    passes: {
      z: depth(1, 'SKY', 'SUN'),
      sky: [...EVEN, 'Declare=SUN=0'],
      sun: [...EVEN, 'Declare=SKY=0'],
    },
  },
];

/** Cut-outs: what is ray traced, from which file, and what its geometry is made with; the sky’s two make themselves. */
const PLATES = [
  ['walker-a', 'walker', [450, 600], ['.12', '8']],
  ['walker-b', 'walker', [450, 600], ['.12', '48']],
  ['walker-1', 'walker', [450, 600], ['.04', '14']],
  ['walker-2', 'walker', [450, 600], ['.29', '14']],
  ['walker-3', 'walker', [450, 600], ['.56', '14']],
  ['walker-4', 'walker', [450, 600], ['.81', '14']],
  ['walker-noon', 'walker', [660, 880], ['.18', '30'], 'Declare=DUSK=0'],
  ['boat', 'boat', [1260, 840], []],
  ['heron', 'heron', [860, 1075], []],
];
const SKY_PLATES = ['moon', 'cloud'];

const run = (command, ...args) =>
  execFileSync(command, args, { cwd: work, stdio: ['ignore', 'inherit', 'inherit'] });

rmSync(work, { recursive: true, force: true });
mkdirSync(`${work}inc`, { recursive: true });
for (const file of readdirSync(here).filter((f) => /\.(pov|inc)$/.test(f)))
  copyFileSync(here + file, work + file);
run('node', `${here}sky.mjs`, '4096', 'sky.exr');
run('node', `${here}sky.mjs`, '1024', 'sky1k.exr');
for (const file of ['geometry', 'tabletop', 'closeup']) run('node', `${here}${file}.mjs`);
for (const { name, field, size, passes } of VIEWS) {
  for (const [pass, options] of Object.entries(passes))
    run(
      'povray',
      `+I${name === 'round' ? 'mill' : name}.pov`,
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

for (const [name, file, size, made, ...options] of PLATES) {
  run('node', `${here}${file}.mjs`, ...made);
  const to = [`+O${name}.exr`, '+FE', '+UA', `+W${size[0]}`, `+H${size[1]}`, `+WT${THREADS}`, '-D'];
  run('povray', `+I${file}.pov`, ...to, '+A0.1', '+AM2', '+R3', ...options);
}
for (const name of SKY_PLATES) run('node', `${here}skyPlates.mjs`, name);
for (const name of [...PLATES.map(([plate]) => plate), ...SKY_PLATES])
  run('node', `${here}bake.mjs`, name, `${here}renders/plate.${name}`, 'plate');
