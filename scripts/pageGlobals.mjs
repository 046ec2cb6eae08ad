// A document for the tests of what the web draws: its globals stand beside Node's own. One serves all files of a process, and is left empty
// after each test.
import { JSDOM } from 'jsdom';

/** Taken from the document even where Node has one of its own, since the document accepts no other. */
const OF_THE_DOCUMENT = ['Event', 'EventTarget', 'CustomEvent', 'MessageEvent', 'navigator'];

// Pages say today, this week and when: they are drawn as of one morning, so that what a test expects does not hang on the day it is run.
// The clock goes on from there.
const AS_OF = Date.parse('2026-11-26T10:00:00Z');
const AS_OF_SET = Symbol.for('wunsch.as-of');
// Read anew for each file of a process, and set once.
if (!globalThis[AS_OF_SET]) {
  globalThis[AS_OF_SET] = true;
  const realNow = Date.now;
  const away = AS_OF - realNow();
  let now = () => realNow() + away;
  const clock = new Proxy(Date, {
    construct: (date, parts, target) => Reflect.construct(date, parts.length === 0 ? [now()] : parts, target),
    get: (date, name) => (name === 'now' ? now : Reflect.get(date, name)),
    // A test may set a clock of its own; what is made of this one keeps its own.
    set: (date, name, value, receiver) => {
      if (name !== 'now' || receiver !== clock) return Reflect.set(date, name, value, receiver);
      now = value;
      return true;
    },
  });
  globalThis.Date = clock;
}

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
