import { array, mixed, object, tuple } from 'yup';
import { Problem } from '../proof/problem';
import { between, place } from '../recipe/schemaParts';
import { validJson } from '../recipe/validJson';
import { type Dab } from './dab';

/** dabs and points of one that are read: more nobody draws */
const MOST_DABS = 1000;
const MOST_POINTS = 10_000;
const LARGEST = 1e5;

const SCHEMA = object({
  dabs: array(
    object({
      is: mixed<Dab['is']>().oneOf(['this', 'not', 'edge']).required(),
      size: between(0, LARGEST),
      points: array(tuple([place(), place()]).required())
        .required()
        .min(1)
        .max(MOST_POINTS),
    }).required(),
  )
    .required()
    .max(MOST_DABS),
});

/**
 * Reads a file of dabs: `{ "dabs": [ { "is": "this" | "not" | "edge", "size": diameter in px, "points": [[x, y], …] } ] }`.
 * @param where name of the file, for the sentence
 * @throws Problem naming the first thing that is wrong, or that no dab says “this”
 */
export function parseDabs(text: string, where: string): Dab[] {
  const refuse = (detail: string): never => {
    throw new Problem(
      `“${where}” holds no dabs that can be read: ${detail}. Write { "dabs": [ { "is": "this", "not" or "edge", "size": 14, "points": [[x, y]] } ] }.`,
    );
  };
  const { dabs } = validJson(text, SCHEMA, refuse);
  if (!dabs.some((d) => d.is === 'this'))
    throw new Problem(`No dab of “${where}” says “this”. Add one on the thing that is to be cut out.`);
  return dabs.map(({ is, size, points }) => ({ is, size, points }));
}
