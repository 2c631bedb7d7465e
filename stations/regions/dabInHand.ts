import { type Dab } from '@/core/cutout/dab';

/** What a dab drawn with the tool in hand says; undefined for a tool that draws none. */
export const dabInHand = (tool: string | undefined): Dab['is'] | undefined =>
  tool === 'this' || tool === 'not' || tool === 'edge' ? tool : undefined;
