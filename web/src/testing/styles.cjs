// Style sheets are names of classes to tests.
module.exports = new Proxy({}, { get: (_, name) => (name === '__esModule' ? false : name) });
