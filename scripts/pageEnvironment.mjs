// Jest environment for what of the web draws on a page: Node with the globals of a document beside its own.
import nodeEnvironment from 'jest-environment-node';
import { JSDOM } from 'jsdom';

const NodeEnvironment = nodeEnvironment.TestEnvironment ?? nodeEnvironment.default ?? nodeEnvironment;

/** Taken from the document even where Node has one of its own, since the document accepts no other. */
const OF_THE_DOCUMENT = ['Event', 'EventTarget', 'CustomEvent', 'MessageEvent', 'navigator'];

export default class PageEnvironment extends NodeEnvironment {
  async setup() {
    await super.setup();
    this.dom = new JSDOM('<!doctype html><html lang="en"><body></body></html>', {
      url: 'http://127.0.0.1/',
      pretendToBeVisual: true,
    });
    const { window } = this.dom;
    for (const name of Object.getOwnPropertyNames(window)) {
      if (name in this.global && !OF_THE_DOCUMENT.includes(name)) continue;
      Object.defineProperty(this.global, name, {
        get: () => window[name],
        set: (value) => {
          Object.defineProperty(this.global, name, { value, writable: true, configurable: true });
        },
        configurable: true,
      });
    }
    this.global.window = window;
    this.global.document = window.document;
    this.global.IS_REACT_ACT_ENVIRONMENT = true;
    // What Radix asks for and a document without a screen has not.
    const prototype = window.Element.prototype;
    prototype.hasPointerCapture ??= () => false;
    prototype.setPointerCapture ??= () => undefined;
    prototype.releasePointerCapture ??= () => undefined;
    prototype.scrollIntoView ??= () => undefined;
    window.matchMedia ??= () => ({ matches: false, addEventListener() {}, removeEventListener() {} });
    this.global.ResizeObserver ??= class {
      observe() {}
      unobserve() {}
      disconnect() {}
    };
    window.ResizeObserver ??= this.global.ResizeObserver;
  }

  async teardown() {
    this.dom?.window.close();
    await super.teardown();
  }
}
