import '@testing-library/jest-dom/jest-globals';
import { jest } from '@jest/globals';
import { configure } from '@testing-library/react';
import { webcrypto } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';
import { deserialize, serialize } from 'node:v8';

// a slow machine is no failure
configure({ asyncUtilTimeout: 10_000 });
// jsdom has no canvas; charts are checked by what they say of themselves
HTMLCanvasElement.prototype.getContext = (() => null) as typeof HTMLCanvasElement.prototype.getContext;
const error = console.error;
// charts and links bring their code when they are first drawn, by themselves, whenever that is
const BY_THEMSELVES = [
  'Failed to create chart',
  'A suspended resource finished loading inside a test',
  'An update to %s inside a test was not wrapped in act',
];
jest.spyOn(console, 'error').mockImplementation((...args: unknown[]) => {
  const [text, of] = args.map(String);
  const isLink = !text.includes('%s') || of.includes('Link');
  if (!(isLink && BY_THEMSELVES.some((start) => text.startsWith(start)))) error(...args);
});

// jsdom has none of these, and every browser has them
Object.assign(globalThis, { TextDecoder, TextEncoder });
Object.defineProperty(globalThis, 'crypto', { value: webcrypto });
globalThis.structuredClone ??= <T>(value: T): T => deserialize(serialize(value)) as T;
