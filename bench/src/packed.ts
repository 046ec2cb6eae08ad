/** Seconds as 32-bit little-endian milliseconds, as the server stores them. */
export function packMilliseconds(seconds: readonly number[]): Uint8Array {
  return new Uint8Array(Int32Array.from(seconds, (s) => Math.round(s * 1000)).buffer);
}

/** Numbers as 32-bit little-endian floats, as the server stores them. */
export function packFloats(values: readonly number[]): Uint8Array {
  return new Uint8Array(Float32Array.from(values).buffer);
}
