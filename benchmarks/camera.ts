import { FIRST_WISH, planStandIn, type StandInPlan, type StandInView, VIEWS } from '@/camera/standIn';
import { nodePool } from '@/engine/nodePool';

/** Frames of the stand-in camera, file and all, in one worker: every view and plan at the widest opening and an ordinary one. */
const SIZE = { width: 1500, height: 1000 };
const RUNS = 3;
const PLANS = ['bracket', 'focus', 'panorama'] as const satisfies StandInPlan[];

const pool = nodePool(new URL('./node.worker.mjs', import.meta.url), 1);
console.log(`\n## Stand-in camera, ${SIZE.width} × ${SIZE.height}, ms a frame in a worker (median, worst)\n`);
console.log('| view | plan | f/2 | f/8 |');
console.log('| --- | --- | ---: | ---: |');
for (const view of Object.keys(VIEWS) as StandInView[])
  for (const plan of PLANS) {
    const times: string[] = [];
    for (const aperture of [2, 8]) {
      const shots = planStandIn({
        ...FIRST_WISH,
        view,
        plan,
        aperture,
        frames: RUNS,
        focalLength: VIEWS[view].shortest,
        slide: plan === 'panorama' ? 0.02 : 0,
        moving: view === 'mill',
      }).map((wish) => ({ ...wish, shot: { ...wish.shot, ...SIZE } }));
      // the first one also reads the scene, which is kept
      await pool.run((tasks) => tasks.standIn(shots[0]));
      const taken: number[] = [];
      for (const shot of shots) {
        const start = performance.now();
        await pool.run((tasks) => tasks.standIn(shot));
        taken.push(performance.now() - start);
      }
      taken.sort((a, b) => a - b);
      times.push(`${taken[taken.length >> 1].toFixed(0)}, ${taken[taken.length - 1].toFixed(0)}`);
    }
    console.log(`| ${view} | ${plan} | ${times.join(' | ')} |`);
  }
pool.close();
