import type { Compiled } from './compiled.ts';

/** From the start of each activity to the end of everything that must follow it, hours and resources not counted. */
export function tails(c: Compiled): Float64Array {
  const tail = Float64Array.from(c.duration);
  const order = Array.from({ length: c.n }, (_, i) => i).sort((a, b) => c.earliest[b]! - c.earliest[a]!);
  for (let rounds = 0; rounds < c.n; rounds += 1) {
    let isChanged = false;
    for (const i of order)
      for (const { other, lag } of c.out[i]!)
        if (lag + tail[other]! > tail[i]!) {
          tail[i] = lag + tail[other]!;
          isChanged = true;
        }
    if (!isChanged) break;
  }
  return tail;
}
