export {
  guessReading,
  KIND_NAMES,
  readCell,
  Reading,
  readingInWords,
  readNumber,
  readValue,
  shorten,
  type CellKind,
} from './cells';
export { columnNames, csvOptions, csvProblem, readCsv } from './csv';
export { detectFormat, FORMAT_NAMES, FORMATS, type Format } from './detect';
export { DELIMITER_NAMES, DELIMITERS, Dialect, MAX_LINES_ABOVE, type Delimiter } from './dialect';
export { decode, detectEncoding, ENCODING_NAMES, ENCODINGS, type Encoding } from './encoding';
export { cleanHtml, wordsOf } from './feeds/clean';
export { readFeed } from './feeds/feed';
export { firstWords, type Feed, type Post } from './feeds/post';
export { FormatError } from './formatError';
export { flatten, listAt, listsIn, readJson, type ListFound } from './json';
export { isJsonLd, ordersIn, productsIn } from './jsonld';
export { readNdjson, readNdjsonLine, type NdjsonLine } from './ndjson';
export { sniffDialect } from './sniff';
