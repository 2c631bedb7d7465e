import { expose } from 'comlink';
import { jpegPlatform } from './jpegPlatform';
import { makeTasks } from './tasks';

expose(makeTasks(jpegPlatform()));
