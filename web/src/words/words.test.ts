import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { wordsOf } from '.';

const SOURCES = join(__dirname, '..');
const files = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? files(path) : [path];
  });
const page = (name: string) =>
  JSON.parse(readFileSync(join(__dirname, 'en', `${name}.json`), 'utf8')) as Record<string, string>;
const PAGES = readdirSync(join(__dirname, 'en')).map((name) => name.replace('.json', ''));

/** The keys that each page's files name. */
const named = new Map<string, Set<string>>(PAGES.map((name) => [name, new Set()]));
for (const path of files(SOURCES).filter((one) => /(?<!\.test)\.tsx?$/.test(one))) {
  const text = readFileSync(path, 'utf8');
  for (const [, call = '', name = ''] of text.matchAll(/const (\w+) = \w+\('(\w+)'\);/g))
    for (const [, key = ''] of text.matchAll(new RegExp(`\\b${call}\\(\\s*'(\\w+)'`, 'g')))
      named.get(name)?.add(key);
}

test.each(PAGES)('every sentence of %s is shown somewhere, and says something', (name) => {
  const sentences = page(name);
  const keys = Object.keys(sentences);
  expect(keys.filter((key) => !named.get(name)?.has(key))).toEqual([]);
  expect(keys.filter((key) => !/[\p{L}\p{N}]/u.test(sentences[key] ?? ''))).toEqual([]);
});

test('what stands in double braces is filled as it is; what is not given leaves nothing behind', () => {
  const t = wordsOf('outbox');
  expect(t('approveAllTotal', { total: '1,250' })).toBe('Approve all 1,250');
  expect(t('allowEmailAgain', { email: '“a&b”@x.example' })).toBe('Allow “a&b”@x.example again');
});
