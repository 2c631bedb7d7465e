import { describe, expect, test } from '@jest/globals';
import { isAway } from '@/core/raster/awayPixels';
import { addFrameLayer } from './edits/layers';
import { inlinePool } from '@/tests/inlinePool';
import { sampleProject } from '@/tests/sampleProject';
import { smallBracket } from '@/tests/smallBracket';
import { produce } from 'immer';
import { frameTaker, heldFrames, isCrowded, TAB_BUDGET } from './memory';
import { START } from './session';

describe('what a bench holds', () => {
  test('frames of a drop stay whole as long as all of them may; else the first ones tell, and the others keep what is small', async () => {
    const shots = await smallBracket(false, [480, 320]);
    const bytes = shots.map(({ buffer }) => new Uint8Array(buffer));
    const whole = 480 * 320 * 3 * (1 + 1 / 4);
    const taken = async (held: number) => {
      const take = frameTaker(inlinePool(1), { ...TAB_BUDGET, held, staying: 240 * 160 }, 3);
      const frames = await Promise.all(bytes.map((b, i) => take(shots[i].name, b)));
      const readings = await Promise.all(frames.map((f) => f.readings()));
      return { away: frames.map((f) => isAway(f.frame.levels)), readings, frames };
    };
    const all = await taken(3 * whole);
    expect(all.away).toEqual([false, false, false]);
    const few = await taken(2.9 * whole);
    expect(few.away).toEqual([false, true, true]);
    // what is measured is the same, and so is what stays
    expect(few.readings).toEqual(all.readings);
    few.frames.forEach(({ frame }, i) => {
      const { levels, hash } = all.frames[i].frame;
      expect(frame.hash).toBe(hash);
      expect(frame.levels[1]).toEqual(levels[1]);
      expect(frame.levels[0].data.length).toBe(i === 0 ? 480 * 320 * 3 : 0);
    });
  }, 60_000);

  test('in a crowded project the reference, the frame looked at and what is laid as a layer are whole', () => {
    const project = sampleProject();
    const [dark, , light] = project.frames;
    expect(isCrowded(project, TAB_BUDGET)).toBe(false);
    expect(isCrowded(project, { ...TAB_BUDGET, held: 1 })).toBe(true);
    const held = (of: typeof project, frame: string): string[] => [
      ...heldFrames({ history: { project: of, past: [], future: [] }, session: { ...START, frame } }),
    ];
    const { reference } = project.sets[0];
    const hashOf = (id: string): string => project.frames.find((f) => f.id === id)?.hash ?? '';
    expect(held(project, '')).toEqual([hashOf(reference)]);
    expect(held(project, light.id).sort()).toEqual([hashOf(reference), light.hash].sort());
    const laid = produce(project, addFrameLayer('l', dark));
    expect(held(laid, '').sort()).toEqual([dark.hash, hashOf(reference)].sort());
  });
});
