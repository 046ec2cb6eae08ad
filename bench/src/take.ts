/** What taking a file came to. */
export interface Taken {
  seconds: number;
  bytes: number;
  /** Memory used over what there was at the beginning, bytes. */
  extra: number;
}

/** Takes a file out, looking at this process's memory while it comes. */
export async function take(
  read: () => AsyncIterable<Uint8Array> | Promise<AsyncIterable<Uint8Array>>,
): Promise<Taken> {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let most = before;
  const timer = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20);
  const start = performance.now();
  let bytes = 0;
  for await (const part of await read()) {
    bytes += part.length;
    most = Math.max(most, process.memoryUsage().rss);
  }
  clearInterval(timer);
  return { seconds: (performance.now() - start) / 1000, bytes, extra: Math.max(0, most - before) };
}
