import { expect, test } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import jpeg from 'jpeg-js';
import { DEMO_SETS } from '@/camera/demoSets';
import { allLayers } from '@/core/layers/layer';
import { parseProject } from '@/core/recipe/parseProject';
import { FINISHES } from '@/demo/finishes';
import { demoSetOf, finishedProject } from '@/store/demoSets';

const FOLDER = 'demo/finished';

test('every demo set is there as a finished project and a picture', () => {
  const ids = DEMO_SETS.map((s) => s.id).sort();
  expect(Object.keys(FINISHES).sort()).toEqual(ids);
  expect(readdirSync(FOLDER).sort()).toEqual(ids.flatMap((id) => [`${id}.jpg`, `${id}.json`]).sort());
});

test.each(Object.keys(FINISHES))('%s: the recipe passes the gate, and is what its steps say', (id) => {
  const project = parseProject(JSON.parse(readFileSync(`${FOLDER}/${id}.json`, 'utf8')), `${id}.json`);
  expect(demoSetOf(project.id)).toEqual({ set: id, finished: true });
  expect(project.id).toBe(finishedProject(id));
  // nothing computed ships: it is made of the frames that are there
  expect(project.made).toEqual({});
  const record = project.log.map((line) => line.text);
  const edits = [...project.edits, ...allLayers(project.layers).flatMap((l) => l.edits)];
  for (const step of FINISHES[id]) {
    if (step.does === 'edit') {
      expect(record).toContain(step.says);
      expect(edits).toContainEqual(expect.objectContaining({ kind: step.kind, settings: step.settings }));
    } else if (step.does === 'sun') expect(project.space?.light.sun).toMatchObject(step.to);
    else {
      const frame = project.frames.find((f) => f.file === step.file);
      const layer = allLayers(project.layers).find(
        (l) => l.kind === 'picture' && l.source.kind === 'plate' && l.source.frame === frame?.id,
      );
      expect({ shown: layer?.shown, stands: layer?.stand !== undefined }).toEqual({
        shown: step.does === 'stand',
        stands: step.does === 'stand',
      });
    }
  }
  const picture = jpeg.decode(readFileSync(`${FOLDER}/${id}.jpg`));
  expect(Math.max(picture.width, picture.height)).toBeGreaterThanOrEqual(500);
});
