import '@testing-library/jest-dom/jest-globals';
import { jest } from '@jest/globals';
import { webcrypto } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';
import { deserialize, serialize } from 'node:v8';

// jsdom has no canvas; charts are checked by what they say of themselves
HTMLCanvasElement.prototype.getContext = (() => null) as typeof HTMLCanvasElement.prototype.getContext;
const error = console.error;
jest.spyOn(console, 'error').mockImplementation((...args: unknown[]) => {
  if (!String(args[0]).startsWith('Failed to create chart')) error(...args);
});

// jsdom has none of these, and every browser has them
Object.assign(globalThis, { TextDecoder, TextEncoder });
Object.defineProperty(globalThis, 'crypto', { value: webcrypto });
globalThis.structuredClone ??= <T>(value: T): T => deserialize(serialize(value)) as T;
