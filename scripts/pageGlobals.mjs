// A document for the tests of what the web draws: its globals stand beside Node's own. One serves all files of a process, and is left empty
// after each test.
import { JSDOM } from 'jsdom';
import * as React from 'react';
import { styleFromTags } from './tagStyles.mjs';

/** Taken from the document even where Node has one of its own, since the document accepts no other. */
const OF_THE_DOCUMENT = ['Event', 'EventTarget', 'CustomEvent', 'MessageEvent', 'navigator'];

// Pages say today, this week and when: each file of tests begins on one morning, so that what it expects hangs neither on the day it is run nor on
// how long the files before it took. The clock goes on from there.
const AS_OF = Date.parse('2026-11-26T10:00:00Z');
const RESTART = Symbol.for('wunsch.restart-clock');
globalThis[RESTART] ??= layClock();

/** Lays a clock over the machine's and gives what sets it back to the morning; each file of tests does so as it begins. */
function layClock() {
  const realNow = Date.now;
  let away = 0;
  let now = () => realNow() + away;
  globalThis.Date = new Proxy(Date, {
    construct: (date, parts, target) => Reflect.construct(date, parts.length === 0 ? [now()] : parts, target),
    get: (date, name) => (name === 'now' ? now : Reflect.get(date, name)),
    // A test may set a clock of its own; what is made of this one keeps its own.
    set: (date, name, value, receiver) => {
      if (name !== 'now' || receiver !== globalThis.Date) return Reflect.set(date, name, value, receiver);
      now = value;
      return true;
    },
  });
  const restart = () => {
    away = AS_OF - realNow();
  };
  restart();
  return restart;
}

// What React keeps for the panels of a browser's tools (times of each component, where each element was written) takes a sixth of a test's
// time, and nobody looks at it here.
Object.assign(console, { timeStamp: undefined, createTask: undefined });
Object.defineProperty(
  React.__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE ?? {},
  'recentlyCreatedOwnerStacks',
  { get: () => Infinity, set() {}, configurable: true },
);

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
globalThis.getComputedStyle = window.getComputedStyle = styleFromTags(window);
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
