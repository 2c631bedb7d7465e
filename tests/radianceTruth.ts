import { realEnvironment } from './knownScene';
import { LIT, radianceErrors } from './radianceErrors';

// Prints how far the merged light of a real environment is from the truth. Argument: the map.
const map = realEnvironment(process.argv[2], LIT.width, LIT.height);
process.stdout.write(JSON.stringify(await radianceErrors(map)));
