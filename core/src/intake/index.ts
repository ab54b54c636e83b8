export { findNumbered, type Numbered } from './numbered';
export { Mapping, MappedColumn, mappingProblems, reuseMapping } from './mapping';
export {
  finished,
  hasRowLines,
  joinLines,
  rowReader,
  type CellProblem,
  type RowRead,
  type RowReader,
} from './read';
export { fieldName, readingFor, suggestMapping, type Sample } from './suggest';
export { TARGETS, targetOf, type Target, type TargetField, type TargetId } from './targets';
