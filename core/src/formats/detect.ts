/** Formats that files and addresses come in. */
export const FORMATS = ['table', 'json', 'ndjson', 'jsonld', 'feed'] as const;
export type Format = (typeof FORMATS)[number];

export const FORMAT_NAMES: Record<Format, string> = {
  table: 'Table (CSV, TSV)',
  json: 'JSON',
  ndjson: 'NDJSON, a record a line',
  jsonld: 'JSON-LD of schema.org',
  feed: 'Feed (RSS, Atom, JSON Feed)',
};

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

/** Finds the format from how a file begins; `sample` may be cut anywhere. */
export function detectFormat(sample: string): Format {
  const text = sample.replace(/^\uFEFF/, '').trimStart();
  if (text.startsWith('<')) return 'feed';
  if (!/^[{[]/.test(text)) return 'table';
  const [first = '', second = ''] = text.split(/\r?\n/, 2);
  if (first.startsWith('{') && isJson(first) && second.trim() !== '') return 'ndjson';
  if (/"version"\s*:\s*"https:\\?\/\\?\/jsonfeed\.org/.test(text)) return 'feed';
  if (/"@context"\s*:\s*[^,]*schema\.org/.test(text)) return 'jsonld';
  return 'json';
}
