/** A part of an address as text; itself where it is no proper address, so that nothing typed into the address bar breaks the page. */
export function plainText(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}
