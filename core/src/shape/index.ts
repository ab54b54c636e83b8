export { ProfileBuilder, type FieldProfile, type ProfileKind } from './profile';
export { inferShape, ShapeBuilder } from './infer';
export {
  ANY,
  BOOLEAN,
  DATE,
  fieldNamed,
  kindName,
  LOOP,
  memberShape,
  NUMBER,
  TEXT,
  type Field,
  type Shape,
} from './shape';
export { fieldLabel, isMeant, meantFields } from './labels';
export { singleValues } from './oneOf';
export { fieldAt, fieldPaths, type FieldPath } from './paths';
export { fieldWords } from './fieldWords';
