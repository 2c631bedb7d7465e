import { describe, expect, test } from '@jest/globals';
import { type DropItem } from 'react-aria-components';
import { droppedFiles } from './droppedFiles';

const file = (name: string): DropItem =>
  ({ kind: 'file', name, getFile: () => Promise.resolve(new File([name], name)) }) as unknown as DropItem;

const folder = (...entries: readonly DropItem[]): DropItem =>
  ({
    kind: 'directory',
    async *getEntries() {
      await Promise.resolve();
      yield* entries;
    },
  }) as unknown as DropItem;

const names = async (...items: readonly DropItem[]): Promise<string[]> =>
  (await droppedFiles(items)).map((f) => f.name);

describe('files of a drop', () => {
  test('come in the order of their names, as numbers count', async () => {
    expect(await names(file('mill-10.jpg'), file('mill-9.jpg'), file('mill-2.jpg'))).toEqual([
      'mill-2.jpg',
      'mill-9.jpg',
      'mill-10.jpg',
    ]);
  });

  test('those of folders and their folders are taken too; text is not', async () => {
    const text = { kind: 'text', types: new Set(['text/plain']) } as unknown as DropItem;
    expect(await names(folder(file('b.jpg'), folder(file('c.jpg'))), text, file('a.jpg'))).toEqual([
      'a.jpg',
      'b.jpg',
      'c.jpg',
    ]);
  });

  test('a folder without end, and more files than a project takes, come to an end', async () => {
    let deep = folder(file('lost.jpg'));
    for (let k = 0; k < 6; k++) deep = folder(deep, file(`level-${k}.jpg`));
    expect(await names(deep)).not.toContain('lost.jpg');
    const many = Array.from({ length: 500 }, (_, i) => file(`${i}.jpg`));
    expect(await names(folder(...many))).toHaveLength(400);
  });
});
