import { bigint, check, pgTable, text } from "drizzle-orm/pg-core";
import { sql } from "drizzle-orm";
import { bytes, instant } from "./columns";

/**
 * Files by the digest of their bytes: the same file twice is kept once. The bytes lie in a folder
 * beside the database; who may read them is decided by what they hang on.
 */
export const storedFile = pgTable(
  "stored_file",
  {
    /** SHA-256, in hexadecimal figures. */
    sha256: text("sha256").primaryKey(),
    size: bigint("size", { mode: "number" }).notNull(),
    at: instant("at").notNull(),
    /** The bytes of files from before there was a folder, until they are moved there. */
    content: bytes("content"),
  },
  (t) => [check("stored_file_digest", sql`${t.sha256} ~ '^[0-9a-f]{64}$'`)],
);
