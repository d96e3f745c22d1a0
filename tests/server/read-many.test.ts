import { asc, getTableColumns, isNull, sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { readMany } from "@/db/read-many";
import { item, stay } from "@/db/schema";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

describe("many rows of a table", () => {
  test("are read as the query builder reads them, every column of every item", async () => {
    const expected = await database()
      .select()
      .from(item)
      .where(isNull(item.withdrawnAt))
      .orderBy(asc(item.id));
    const tail = sql`where ${isNull(item.withdrawnAt)} order by ${item.id}`;
    const rows = await readMany(database(), item, getTableColumns(item), tail);
    expect(rows.length).toBeGreaterThan(500);
    expect(rows).toEqual(expected);
  });

  test("have the names that were asked for, and nothing where there is nothing", async () => {
    const columns = { entered: stay.enteredAt, left: stay.leftAt };
    const tail = sql`where ${isNull(stay.leftAt)} limit 1`;
    const [row] = await readMany(database(), stay, columns, tail);
    expect(row).toEqual({ entered: expect.any(Number), left: null });
  });
});
