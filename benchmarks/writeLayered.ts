import { layeredProject } from './layeredProject';

// node writeLayered.mjs FOLDER COUNT WIDTH HEIGHT: a project of so many layers, for the benchmark of the interface
const [folder, ...sizes] = process.argv.slice(2);
const [count, width, height] = sizes.map(Number);
console.log(await layeredProject(folder, count, width, height));
process.exit(0);
