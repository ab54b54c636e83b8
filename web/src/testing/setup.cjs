// What browsers have and jsdom has not; it is asked for by Mantine and by the editors.
if (typeof window !== 'undefined') {
  const util = require('node:util');
  const { deserialize, serialize } = require('node:v8');
  globalThis.TextDecoder ??= util.TextDecoder;
  globalThis.TextEncoder ??= util.TextEncoder;
  globalThis.structuredClone ??= (value) => deserialize(serialize(value));
  window.matchMedia ??= () => ({
    matches: false,
    addEventListener() {},
    removeEventListener() {},
    addListener() {},
    removeListener() {},
  });
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  globalThis.EventSource ??= class {
    close() {}
  };
  Blob.prototype.text ??= function () {
    return new Promise((done, failed) => {
      const reader = new FileReader();
      reader.onload = () => done(reader.result);
      reader.onerror = () => failed(reader.error);
      reader.readAsText(this);
    });
  };
  Element.prototype.scrollIntoView ??= () => undefined;
  document.fonts ??= { addEventListener() {}, removeEventListener() {} };
  document.elementFromPoint ??= () => null;
  const noRects = () => Object.assign([], { item: () => null });
  Range.prototype.getClientRects = noRects;
  Range.prototype.getBoundingClientRect = () => new DOMRect();
}
