import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { parentPort } from 'node:worker_threads';
import { nodePlatform } from './nodePlatform';
import { makeTasks } from './tasks';

if (parentPort) expose(makeTasks(nodePlatform()), nodeEndpoint(parentPort));
