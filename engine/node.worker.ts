import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { parentPort } from 'node:worker_threads';
import { jpegPlatform } from './jpegPlatform';
import { nodeJpegModules } from './nodeJpegModules';
import { makeTasks } from './tasks';

if (parentPort) expose(makeTasks(jpegPlatform(nodeJpegModules)), nodeEndpoint(parentPort));
