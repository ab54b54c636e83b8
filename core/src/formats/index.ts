export { readCell, type CellKind } from './cells';
export { readJsonFeed, type Feed } from './feed';
export { readNdjson, readNdjsonLine, type NdjsonLine } from './ndjson';
export { readTable, type Table, type TableProblem } from './table';
