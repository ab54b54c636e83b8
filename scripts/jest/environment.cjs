// Node's environment, and mjml loaded once for all tests of a worker: loading it takes a second, and it keeps nothing.
const { TestEnvironment } = require('jest-environment-node');

module.exports = class extends TestEnvironment {
  async setup() {
    await super.setup();
    Object.defineProperty(this.global, 'loadedOnce', { value: (name) => require(name) });
  }
};
