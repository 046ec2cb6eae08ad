/**
 * Which of a batch's open steps at a station a page is about: the one its address names, else the last that was begun. None where the address asks
 * for another beside as many as there are; once that one is begun there is one more, and it is the last.
 */
export function chosenStep<T extends { id: string }>(
  open: readonly T[],
  search: URLSearchParams,
): T | undefined {
  if (open.length > 0 && search.get('another') === String(open.length)) return undefined;
  return open.find((s) => s.id === search.get('step')) ?? open.at(-1);
}

/** Which of some open steps the page at an address is about; none where it is no page of a station at which one is open. */
export function stepInSight<T extends { id: string; station: string; batchId: string | null }>(
  open: readonly T[],
  { pathname, search }: { pathname: string; search: string },
): T | undefined {
  const here = open.filter((s) => pathname === `/${s.station}/${s.batchId}`);
  return chosenStep(here, new URLSearchParams(search));
}

/** The address of one of several open steps of a batch at a station. */
export const toStep = (path: string, stepId: string): string => `${path}?step=${stepId}`;

/** The address at which another step is begun beside those that are open. */
export const toAnother = (path: string, open: readonly { id: string }[]): string =>
  `${path}?another=${open.length}`;
