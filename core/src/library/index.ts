export { EMPTY_LIBRARY, expand, type ShopLibrary } from './expand';
export {
  byName,
  expandFormula,
  isNamed,
  NamedFormula,
  OWN,
  ownValues,
  UNNAMED,
  usesOf,
  withNamed,
} from './named';
export {
  EMPTY_NOTE,
  NOTE_PLACES,
  noteGoesWith,
  noteOfRow,
  noteTitle,
  ProductNote,
  type NotePlace,
} from './notes';
