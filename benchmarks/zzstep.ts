import { openProject, whenMade, isWhole, rest } from '@/cli/projectBench';
import { nodePool } from '@/engine/nodePool';
import { nodePlatform } from '@/engine/nodePlatform';
import { makeTasks } from '@/engine/tasks';
import { followScene } from '@/store/shownScene';
import { setKindOfEdit } from '@/store/edits/list';
import { setPlace } from '@/store/edits/layers';
import { sceneForView } from '@/core/view/sceneForView';
const pool = nodePool(new URL('./node.worker.mjs', import.meta.url));
const bench = await openProject(pool, process.argv[2]);
await whenMade(bench, () => {}, isWhole(false));
rest(bench);
const tasks = makeTasks(nodePlatform());
const follow = followScene();
const view = { kind: 'finished' } as any;
const area = { x: 0, y: 0, width: Number(process.argv[3] ?? 1280), height: Number(process.argv[4] ?? 800) };
const draw = async () => { const { scene } = follow(bench.store.getState()); const t = performance.now(); await (tasks.view as any)(sceneForView(scene as any, view), view, 0, area, 'table'); return performance.now() - t; };
console.log('first', await draw());
const { project } = bench.store.getState().history;
const layer = project.layers[4];
const at = { kind: 'layer', id: layer.id } as any;
const edit = (k: number) => bench.actions.edit('Exposure', setKindOfEdit(at, 'exposure', { stops: 0.01 * k }, layer.edits.find((e: any) => e.kind === 'exposure')!.id), 'x');
const times: number[] = [];
for (let k = 0; k < 24; k++) { edit(k); times.push(await draw()); }
console.log('slider', times.slice(4).sort((a, b) => a - b)[10].toFixed(1), times.map((t) => t.toFixed(0)).join(' '));
const moves: number[] = [];
for (let k = 0; k < 16; k++) { bench.actions.edit('Place', setPlace(layer.id, { x: 0.5 + k * 0.003, y: 0.33, size: 1, turn: 0 }), 'p'); moves.push(await draw()); }
console.log('move', moves.slice(4).sort((a, b) => a - b)[6].toFixed(1), moves.map((t) => t.toFixed(0)).join(' '));
await bench.actions.close(); pool.close(); process.exit(0);
