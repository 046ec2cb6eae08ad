/** What can be pressed. */
const CONTROLS =
  'button, a[href], summary, label, input, select, textarea, [role=button], [role=tab], [role=option]';

/** A finger that has gone further than this while it was down meant something else, px. */
const SLOP = 10;

interface Pressed {
  control: HTMLElement;
  x: number;
  y: number;
  top: number;
  left: number;
}

/**
 * A press belongs to what lay under the finger when it came down. Where the page moves in between, as when an alarm or an answer comes in, a browser
 * gives it to whatever lies there when the finger is lifted, or to nothing.
 *
 * @returns ends it
 */
export function keepPresses(page: Document = document): () => void {
  let pressed: Pressed | null = null;
  const down = (e: PointerEvent) => {
    const control = e.target instanceof Element ? e.target.closest<HTMLElement>(CONTROLS) : null;
    if (!control || e.button !== 0) {
      pressed = null;
      return;
    }
    const { top, left } = control.getBoundingClientRect();
    pressed = { control, x: e.clientX, y: e.clientY, top, left };
  };
  const click = (e: MouseEvent) => {
    const had = pressed;
    pressed = null;
    if (!had?.control.isConnected || had.control.contains(e.target as Node)) return;
    if (Math.hypot(e.clientX - had.x, e.clientY - had.y) > SLOP) return;
    const { top, left } = had.control.getBoundingClientRect();
    if (top === had.top && left === had.left) return;
    e.preventDefault();
    e.stopImmediatePropagation();
    had.control.focus({ preventScroll: true });
    had.control.click();
  };
  const scrolled = () => void (pressed = null);
  page.addEventListener('pointerdown', down, { capture: true, passive: true });
  page.addEventListener('pointercancel', scrolled, { capture: true });
  page.addEventListener('click', click, { capture: true });
  return () => {
    page.removeEventListener('pointerdown', down, { capture: true });
    page.removeEventListener('pointercancel', scrolled, { capture: true });
    page.removeEventListener('click', click, { capture: true });
  };
}
