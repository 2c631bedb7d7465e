import { type ToolInHand } from '@/store/benchState';

/** The tool by which places are taken from a frame. */
export const toolOfFrame = (id: string): ToolInHand => `from ${id}`;

/** The frame from which places are taken by the tool in hand; undefined for any other tool. */
export const frameInHand = (tool: ToolInHand | undefined): string | undefined =>
  tool?.startsWith('from ') ? tool.slice('from '.length) : undefined;
