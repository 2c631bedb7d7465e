import { stepHash } from './contentHash';

/** A step of the picture: what is done, how, and to what. */
export interface Node {
  /** over kind, version, settings and the inputs' hashes: two nodes with one hash give the same */
  readonly hash: string;
  /** of its operator, in {@link OPERATORS} */
  readonly kind: string;
  readonly settings: object;
  /** hashes of the nodes that it takes; empty text where one is left out */
  readonly inputs: readonly string[];
}

/** Nodes by hash. */
export type Graph = ReadonlyMap<string, Node>;

/** A graph in the making. */
export interface GraphBuilder {
  readonly graph: Graph;
  /** Adds a step, or finds it where it is there already. @returns its hash */
  readonly add: (kind: string, settings: object, inputs?: readonly string[]) => string;
}

/** @param versionOf the version of an operator, so that what an earlier one made is made anew */
export function buildGraph(versionOf: (kind: string) => number): GraphBuilder {
  const nodes = new Map<string, Node>();
  return {
    graph: nodes,
    add: (kind, settings, inputs = []) => {
      const hash = stepHash(kind, versionOf(kind), settings, inputs);
      if (!nodes.has(hash)) nodes.set(hash, { hash, kind, settings, inputs });
      return hash;
    },
  };
}
