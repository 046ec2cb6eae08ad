/**
 * Puts a text on the clipboard. Over plain HTTP, as in a workshop's own network, browsers hide their clipboard from pages: there it is copied the
 * old way, as a selection.
 *
 * @returns whether it is there
 */
export async function copyText(text: string): Promise<boolean> {
  const { clipboard } = navigator as Partial<Navigator>;
  if (clipboard)
    try {
      await clipboard.writeText(text);
      return true;
    } catch {
      // Asked and refused: a selection may still be copied.
    }
  const box = document.createElement('textarea');
  box.value = text;
  box.className = 'fixed opacity-0';
  // A dialog keeps the focus inside itself.
  (document.activeElement?.parentElement ?? document.body).append(box);
  const before = document.activeElement;
  box.focus();
  box.select();
  try {
    return document.execCommand('copy');
  } catch {
    return false;
  } finally {
    box.remove();
    if (before instanceof HTMLElement) before.focus();
  }
}
