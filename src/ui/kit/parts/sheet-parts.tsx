import { useState } from "react";
import { Button } from "../button";
import { ListEditor } from "../list-editor";
import { Table } from "../table";
import { Tabs } from "../tabs";
import { Shown } from "./shown";

const ROWS = [
  { state: "Review", items: 4, days: 2.5 },
  { state: "Testing", items: 7, days: 6 },
];

export function SheetParts() {
  const [tab, setTab] = useState("Rules");
  const [choices, setChoices] = useState(["north quay", "south quay", "dry dock"]);
  const move = (from: number, to: number) =>
    setChoices((now) => now.toSpliced(from, 1).toSpliced(to, 0, now[from]));
  const items = ROWS.reduce((sum, row) => sum + row.items, 0);
  return (
    <>
      <Shown name="Table">
        <Table
          label="Items by state"
          className="w-full"
          rows={ROWS}
          keyOf={(row) => row.state}
          columns={[
            { head: "State", cell: (row) => row.state, sum: "all" },
            { head: "Items", figures: true, cell: (row) => row.items, sum: items },
            { head: "Half took, days", figures: true, cell: (row) => row.days },
          ]}
        />
        <Table
          label="Nothing"
          rows={[]}
          keyOf={String}
          columns={[]}
          empty="No item waits for you. Look at the board for what moves next."
        />
      </Shown>
      <Shown name="Tabs">
        <Tabs
          label="Parts"
          value={tab}
          onChange={setTab}
          className="w-full"
          panelClass="py-2"
          tabs={["Rules", "Table", "Versions"].map((each) => ({
            value: each,
            label: each,
            panel: `What belongs to ${each.toLowerCase()}.`,
          }))}
        />
      </Shown>
      <Shown name="ListEditor">
        <div className="w-full max-w-[320px]">
          <ListEditor
            label="Berths"
            items={choices}
            keyOf={(choice) => choice}
            nameOf={(choice) => choice}
            onRemove={(i) => setChoices((now) => now.toSpliced(i, 1))}
            onMove={move}
            empty="No berth yet."
            row={(choice) => choice}
          >
            <Button
              small
              className="mt-1"
              onClick={() => setChoices((now) => [...now, `berth ${now.length + 1}`])}
            >
              Add a berth
            </Button>
          </ListEditor>
        </div>
      </Shown>
    </>
  );
}
