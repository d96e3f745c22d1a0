/** The keys of the table that the box offers too. */
export const TABLE_OFFERED = {
  "/": "Narrow what is shown",
  c: "Show all again",
  "?": "The keys of this screen",
};

export const TABLE_KEYS: [string, string][] = [
  ["↑ ↓ ← →", "move between cells"],
  ["Home End", "first and last cell of the row; with Ctrl of the table"],
  ["Page ↑ ↓", "a screen up or down"],
  ["Enter", "open the item, or change the cell"],
  ["F2", "change the cell, the title too"],
  ["Esc", "leave the cell as it was"],
  ["o", "open the item"],
  ["x", "choose the row, on the head of a group all of it"],
  ["a", "add an item, on the head of a group to that group"],
  ["u", "add to the item: a child, or a bug found in it"],
  ["p", "pin the item for me, or no more"],
  ["Shift ↑ ↓", "choose a run of rows"],
  ["Ctrl C", "copy the chosen rows, or the row of the focus"],
  ["← →", "on the head of a group: close and open it"],
  ["/", "narrow what is shown"],
  ["c", "show all again"],
  ["f", "values with counts, or away with them"],
  ["?", "this list"],
];
