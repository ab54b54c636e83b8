export { changeSite } from './change';
export { formulasOf, walkFormulas, type FormulaSite, type SiteFormula } from './site';
export { templateSites } from './template';
