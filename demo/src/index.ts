export { makeCatalog, PICTURES } from './catalog';
export { DEMO_SHOPS, makeFiles, type DemoFiles, type DemoShop } from './files';
export { drawLogo, drawProduct } from './pictures';
export { demoTemplates } from './templates';
