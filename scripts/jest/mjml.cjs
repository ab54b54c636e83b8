// Given by environment.cjs.
module.exports = loadedOnce('mjml');
