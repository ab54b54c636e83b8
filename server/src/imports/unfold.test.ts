import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FormatError } from '@carafe/core/formats';
import { besides, unfold, unfoldedRecords } from './unfold';

const folder = mkdtempSync(join(tmpdir(), 'carafe-unfold-'));
let count = 0;
function file(value: unknown): string {
  const path = join(folder, `f${++count}`);
  writeFileSync(path, typeof value === 'string' ? value : JSON.stringify(value));
  return path;
}
async function records(path: string): Promise<unknown[]> {
  const all: unknown[] = [];
  for await (const batch of unfoldedRecords(path)) all.push(...batch);
  return all;
}
const json = { format: 'json', encoding: 'utf-8' } as const;
const item = (i: number) => ({ sku: `S${i}`, name: `Line\u2028break ${i}` });
const items = (n: number) => Array.from({ length: n }, (_, i) => item(i));

describe('a document that is read whole', () => {
  it('stands beside the file record by record, in its order', async () => {
    const path = file({ data: { items: items(2_500) } });
    const found = unfold(path, json, 'catalog');
    expect(found).toMatchObject({
      ...{ pointer: '/data/items', count: 2_500, asked: null },
      columns: ['sku', 'name'],
    });
    const read = await records(path);
    expect(read).toHaveLength(2_500);
    expect(read[2_499]).toEqual(item(2_499));
    expect(besides(path).every(existsSync)).toBe(true);
  });

  it('is read once: what stands beside it serves every later step', () => {
    const path = file(items(3));
    const first = unfold(path, json, 'catalog');
    writeFileSync(path, 'gone');
    expect(unfold(path, json, 'catalog')).toEqual(first);
  });

  it('is read anew where another list of it is asked for', async () => {
    const path = file({ items: items(3), extras: [{ sku: 'X' }] });
    unfold(path, json, 'catalog');
    const other = unfold(path, { ...json, pointer: '/extras' }, 'catalog');
    expect([other.pointer, other.count]).toEqual(['/extras', 1]);
    expect(await records(path)).toEqual([{ sku: 'X' }]);
  });

  it('leaves nothing that seems whole where it cannot be read', () => {
    const path = file('{"items": [');
    expect(() => unfold(path, json, 'catalog')).toThrow(FormatError);
    expect(existsSync(besides(path)[0] ?? '')).toBe(false);
  });

  it('that was cut off while its records were written is read again', async () => {
    const path = file(items(3));
    unfold(path, json, 'catalog');
    const [head = '', lines = ''] = besides(path);
    // As a stop in the middle leaves it: some lines, and no head.
    const { rmSync } = await import('node:fs');
    rmSync(head);
    writeFileSync(lines, readFileSync(lines, 'utf8').slice(0, 9));
    expect(unfold(path, json, 'catalog').count).toBe(3);
    expect(await records(path)).toEqual(items(3));
  });
});
