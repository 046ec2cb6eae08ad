// A document for the tests of what the web draws: its globals stand beside Node's own. One serves all files of a process, and is left empty
// after each test.
import { JSDOM } from 'jsdom';

/** Taken from the document even where Node has one of its own, since the document accepts no other. */
const OF_THE_DOCUMENT = ['Event', 'EventTarget', 'CustomEvent', 'MessageEvent', 'navigator'];

const { window } = new JSDOM('<!doctype html><html lang="en"><body></body></html>', {
  url: 'http://127.0.0.1/',
  pretendToBeVisual: true,
});
for (const name of Object.getOwnPropertyNames(window)) {
  if (name in globalThis && !OF_THE_DOCUMENT.includes(name)) continue;
  Object.defineProperty(globalThis, name, {
    get: () => window[name],
    set: (value) => {
      Object.defineProperty(globalThis, name, { value, writable: true, configurable: true });
    },
    configurable: true,
  });
}
globalThis.window = window;
globalThis.document = window.document;
globalThis.IS_REACT_ACT_ENVIRONMENT = true;
// What Radix asks for and a document without a screen has not.
const prototype = window.Element.prototype;
prototype.hasPointerCapture ??= () => false;
prototype.setPointerCapture ??= () => undefined;
prototype.releasePointerCapture ??= () => undefined;
prototype.scrollIntoView ??= () => undefined;
window.matchMedia ??= () => ({ matches: false, addEventListener() {}, removeEventListener() {} });
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
window.ResizeObserver ??= globalThis.ResizeObserver;
