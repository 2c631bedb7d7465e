import '@testing-library/jest-dom/jest-globals';
import { jest } from '@jest/globals';

// jsdom has no canvas; charts are checked by what they say of themselves
HTMLCanvasElement.prototype.getContext = (() => null) as typeof HTMLCanvasElement.prototype.getContext;
const error = console.error;
jest.spyOn(console, 'error').mockImplementation((...args: unknown[]) => {
  if (!String(args[0]).startsWith('Failed to create chart')) error(...args);
});
