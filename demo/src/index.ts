export { makeCatalog, PICTURES, VARIANTS } from './catalog';
export { DEMO_FEEDS, makePosts, type DemoPost } from './feeds';
export { DEMO_SHOPS, makeFiles, type DemoFiles, type DemoShop } from './files';
export { makePast } from './past';
export { drawLogo, drawProduct, drawScene, SCENES } from './pictures';
export { demoTemplates } from './templates';
export { demoRules } from './rules';
