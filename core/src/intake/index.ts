export { findNumbered, type Numbered } from './numbered';
export { lookAt, lookAtRecords, wholeFormatOf, type Look } from './look';
export { type FixedField, Mapping, MappedColumn, mappingProblems, reuseMapping } from './mapping';
export {
  finished,
  hasRowLines,
  joinLines,
  rowReader,
  type CellProblem,
  type RowRead,
  type RowReader,
} from './read';
export { cellsOf, columnsOf, readDocument } from './records';
export { FileSettings, GivenSettings } from './settings';
export { fieldName, readingFor, type Sample } from './columns';
export { rowsApart, rowsAsLines } from './rowLines';
export { suggestMapping } from './suggest';
export { TARGETS, targetOf, type Target, type TargetField, type TargetId } from './targets';
