import { z } from "zod";

/** The first moment of the year 1: no database keeps years before it under these words. */
const FIRST = Date.parse("0001-01-01T00:00:00Z");

/** A time as somebody outside says it (RFC 3339), in years that can be kept. */
export const saidTime = z.iso
  .datetime({ offset: true })
  .refine((text) => Date.parse(text) >= FIRST, "This is a time before all calendars.");
