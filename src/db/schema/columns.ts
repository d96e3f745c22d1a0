import { customType } from "drizzle-orm/pg-core";
import type { Instant } from "@/core/calendar/instant";

/** An instant, stored as `timestamptz` to the millisecond and read as milliseconds since 1970. */
export const instant = customType<{ data: Instant; driverData: string }>({
  dataType: () => "timestamp(3) with time zone",
  toDriver: (value) => new Date(value).toISOString(),
  fromDriver: (value) => new Date(value).getTime(),
});

/** A place in an order: text that sorts by its bytes, whatever the language of the server. */
export const rank = customType<{ data: string; driverData: string }>({
  dataType: () => 'text COLLATE "C"',
});

export const bytes = customType<{ data: Buffer; driverData: Buffer }>({
  dataType: () => "bytea",
});

/** A transaction's number (`xid8`), which is never used again. */
export const transactionId = customType<{ data: string; driverData: string }>({
  dataType: () => "xid8",
});
