export { catalogNeeds, type CatalogNeed } from './catalogNeeds';
export { framesOf } from './frames';
export { catalogsRead, fieldsRead, pathsRead } from './paths';
export { DATA_KINDS, dataRead, havingFor, rootsRead, type DataKind } from './reads';
export { checkSites, type SiteFinding } from './sites';
export { cutFinding, sayCut } from './cut';
export { sayWeight, weightFinding, weightOf } from './weight';
