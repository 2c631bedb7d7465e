import { expose } from 'comlink';
import { browserPlatform } from './browserPlatform';
import { makeTasks } from './tasks';

expose(makeTasks(browserPlatform()));
