import { Plus } from "lucide-react";
import { useState } from "react";
import { Button, TextButton } from "../button";
import { FormFooter } from "../form-footer";
import { Menu, MenuItem, MenuSection, MenuTitle } from "../menu";
import { FormProblem, Note } from "../note";
import { Popover } from "../popover";
import { Sheet } from "../sheet";
import { Shown } from "./shown";

const LOOKS = ["plain", "strong", "accent", "quiet", "danger"] as const;
const nothing = () => undefined;

export function ActionParts() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Shown name="Button, TextButton">
        {LOOKS.map((look) => (
          <Button key={look} look={look}>
            {look}
          </Button>
        ))}
        {LOOKS.map((look) => (
          <Button key={look} look={look} small>
            {look}
          </Button>
        ))}
        <Button disabled>not now</Button>
        <Button small>
          <Plus size={14} aria-hidden="true" /> with a sign
        </Button>
        <TextButton>in a text</TextButton>
      </Shown>
      <Shown name="Menu, Popover, Sheet">
        <Menu trigger={<Button>Menu</Button>}>
          <MenuTitle>TIX-118</MenuTitle>
          <MenuItem onSelect={nothing}>Copy its key</MenuItem>
          <MenuItem disabled onSelect={nothing}>
            Split it
          </MenuItem>
          <MenuSection>
            <MenuItem onSelect={nothing}>Withdraw it</MenuItem>
          </MenuSection>
        </Menu>
        <Popover label="A small sheet" className="w-[240px]" trigger={<Button>Popover</Button>}>
          What stands beside what opened it.
        </Popover>
        <Button onClick={() => setOpen(true)}>Sheet</Button>
        <Sheet open={open} onClose={() => setOpen(false)} title="A decision">
          <FormFooter send="Decide" onSend={() => setOpen(false)} onLeave={() => setOpen(false)} />
        </Sheet>
      </Shown>
      <Shown name="Note, FormProblem, FormFooter">
        <Note className="w-full">Items of this project count hours from Monday to Friday.</Note>
        <Note kind="done" className="w-full">
          The calendar is stored.
        </Note>
        <Note kind="look" className="w-full">
          Three items stand in a step that no column shows.
        </Note>
        <Note kind="problem" className="w-full">
          The file could not be read. Nothing was stored.
        </Note>
        <FormProblem>Two passwords are not the same.</FormProblem>
        <FormFooter
          className="w-full"
          send="Store it"
          problem="The name is taken."
          onSend={nothing}
          onLeave={nothing}
        />
      </Shown>
    </>
  );
}
