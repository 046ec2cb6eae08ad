/**
 * Stops at the first field of a part of the page in which stands what makes no sense, goes there and has it say why: where a panel is kept by a button and
 * no form is sent, what was typed last must not give way to what stood there before.
 *
 * @returns whether there is one
 */
export function stopsAtFault(within: Element | null): boolean {
  for (const field of within?.querySelectorAll('input') ?? [])
    if (field.validity.customError) {
      field.focus();
      field.reportValidity();
      return true;
    }
  return false;
}
