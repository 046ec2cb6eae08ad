import { customType } from 'drizzle-orm/pg-core';

/** A UTC instant, read and written as an ISO 8601 string with milliseconds on both databases. */
export const instant = customType<{ data: string; driverData: string | Date }>({
  dataType: () => 'timestamp (3) with time zone',
  toDriver: (value) => new Date(value).toISOString(),
  fromDriver: (value) => new Date(value).toISOString(),
});

/** A mass in whole mg. 64 bits on disk; always far inside the exact integers of a number. */
export const massMg = customType<{ data: number; driverData: string | number }>({
  dataType: () => 'bigint',
  toDriver: (value) => value,
  fromDriver: (value) => Number(value),
});

/** Raw bytes. */
export const bytes = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => 'bytea',
  toDriver: (v) => Buffer.from(v.buffer, v.byteOffset, v.byteLength),
  fromDriver: (v) => new Uint8Array(v),
});
