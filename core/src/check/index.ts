export { catalogsRead, fieldsRead, pathsRead } from './paths';
export { DATA_KINDS, dataRead, rootsOf, type DataKind } from './reads';
export { checkTemplate, framesOf, type TemplateFinding } from './template';
