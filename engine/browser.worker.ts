import { expose } from 'comlink';
import { loadRareFormats } from '@/core/codecs/rareFormats';
import { browserPlatform } from './browserPlatform';
import { holdLifeLock } from './lifeLock';
import { makeTasks } from './tasks';

/** milliseconds after which the first picture has long been on the table */
const SETTLED = 8000;

expose(makeTasks(browserPlatform()));
holdLifeLock();
// what few files need does not hold up the first picture, and must be there when the network is not
setTimeout(() => void loadRareFormats().catch(() => undefined), SETTLED);
