// How elements are shown in a document without style sheets: by their tag, and by what stands on them.

/** Handed down to what is inside unless that says otherwise, with what holds where nothing is said. */
const HANDED_DOWN = { visibility: 'visible', pointerEvents: 'auto' };

const camelCased = (name) => name.replace(/-([a-z])/g, (_, letter) => letter.toUpperCase());

/**
 * Stands in for a window's `getComputedStyle`, which asks every rule of the default style sheet for each element anew: names and what can be
 * clicked are asked for a hundred times a test.
 *
 * @param window of jsdom, into which no style sheet is loaded
 */
export function styleFromTags(window) {
  const ask = window.getComputedStyle.bind(window);
  const displays = new Map();
  const displayOf = (element) => {
    if (element.hidden) return 'none';
    if (!displays.has(element.localName))
      displays.set(element.localName, ask(window.document.createElement(element.localName)).display);
    return displays.get(element.localName);
  };
  /** What stands on an element itself; '' where nothing does. */
  const onIt = (element, name) => (element.hasAttribute('style') ? (element.style[name] ?? '') : '');
  const valueOf = (element, name) => {
    if (name in HANDED_DOWN) {
      for (let at = element; at; at = at.parentElement) {
        const said = onIt(at, name);
        if (said !== '' && said !== 'inherit') return said;
      }
      return HANDED_DOWN[name];
    }
    return onIt(element, name) || (name === 'display' ? displayOf(element) : '');
  };
  return (element, pseudo) => {
    const get = (name) => (pseudo ? '' : valueOf(element, camelCased(name)));
    const getPropertyValue = (name) =>
      name.startsWith('--') ? element.style.getPropertyValue(name) : get(name);
    return new Proxy(
      { getPropertyValue },
      { get: (own, name) => (name in own || typeof name === 'symbol' ? own[name] : get(name)) },
    );
  };
}
