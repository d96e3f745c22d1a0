"use client";
import { useState } from "react";
import { addressOf } from "@/core/contract/contract";
import { counted } from "@/core/formats/counted";
import { shipContract } from "@/core/ship/contract";
import {
  inOrderOfWay,
  lastOf,
  MERGED,
  MOST_ROWS,
  rowsOfWay,
  type DeliveriesView,
  type WhatIsWhere,
  type WhereWay,
} from "@/core/ship/what-is-where-view";
import { Button, ButtonLink } from "@/ui/kit/button";
import { Select, type Option } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { useKnownTypes } from "@/ui/kit/type-glyph";
import { DeploySheet, type Wanted } from "./deploy-sheet";
import { DeliveryWords } from "./delivery-words";
import { EnvironmentHistory } from "./environment-history";
import { EnvironmentsForm } from "./environments-form";
import { FrozenWords } from "./frozen-words";
import { useDeliveries } from "./use-deliveries";
import { useWhatIsWhere } from "./use-what-is-where";
import { WherePicture } from "./where-picture";

const ON_THE_WAY = "on the way";
const ARRIVED = "arrived";
const ALL_TYPES = "";

const wayOf = (value: string): WhereWay =>
  value === ON_THE_WAY || value === ARRIVED
    ? { kind: value }
    : { kind: "waits at", environmentId: value };

/** What is where: items and the environments that they have reached. */
export function WhereScreen({
  initial,
  deliveries: first,
}: {
  initial: WhatIsWhere;
  deliveries: { deliveries: DeliveriesView | null };
}) {
  const handle = useWhatIsWhere(initial);
  const { view } = handle;
  const { deliveries } = useDeliveries(first, view);
  const { environments, rows, project, rights, unlisted } = view;
  const types = useKnownTypes();
  const [way, setWay] = useState(ON_THE_WAY);
  const [typeId, setTypeId] = useState(ALL_TYPES);
  const [settling, setSettling] = useState(false);
  const [looking, setLooking] = useState<string | null>(null);
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const last = lastOf(environments);
  const ways: Option[] = [
    { value: ON_THE_WAY, label: last ? `merged and not ${last.name}` : "merged" },
    { value: MERGED, label: "merged, on none yet" },
    ...environments
      .filter(({ id }) => id !== last?.id)
      .map(({ id, name }) => ({ value: id, label: `on ${name}, no further` })),
    ...(last ? [{ value: ARRIVED, label: `${last.name} since two weeks` }] : []),
  ];
  const ofTypes = rows.filter((row) => typeId === ALL_TYPES || row.typeId === typeId);
  const shown = inOrderOfWay(rowsOfWay(ofTypes, environments, wayOf(way)), environments);
  const typeOptions = [
    { value: ALL_TYPES, label: "all types" },
    ...types
      .filter(({ id }) => id === typeId || rows.some((row) => row.typeId === id))
      .map(({ id, name }) => ({ value: id, label: name })),
  ];
  const at = environments.find(({ id }) => id === looking);
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">What is where</h1>
        {environments.length > 0 && rows.length > 0 && (
          <p className="text-ink-soft">
            showing <Select words label="Which" value={way} options={ways} onChange={setWay} /> of{" "}
            <Select
              words
              label="Of which type"
              value={typeId}
              options={typeOptions}
              onChange={setTypeId}
            />{" "}
            · {counted(shown.length, "item")}
          </p>
        )}
        <span className="flex-1" />
        <FrozenWords environments={environments} zone={project.zone} now={view.now} />
        {view.pipelineBeside && (
          <ButtonLink
            look="quiet"
            prefetch={false}
            target="_blank"
            rel="noreferrer noopener"
            href={addressOf(shipContract.enterHost, { query: { of: "pipeline" } })}
          >
            Pipeline
          </ButtonLink>
        )}
        {rights.settings && <Button onClick={() => setSettling(true)}>Environments</Button>}
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        {environments.length === 0 ? (
          <NoEnvironments
            unlisted={unlisted}
            mayEdit={rights.settings}
            onList={() => setSettling(true)}
          />
        ) : (
          <WherePicture
            view={view}
            rows={shown}
            onLook={setLooking}
            onDeploy={(wish) => setWanted({ ...wish, kind: "deploy" })}
          />
        )}
        {environments.length > 0 && view.mains.length === 0 && (
          <NothingBuilt projectKey={project.key} mayEdit={rights.settings} />
        )}
        <Remarks view={view} />
        {deliveries && <DeliveryWords view={deliveries} zone={project.zone} now={view.now} />}
      </div>
      <Sheet
        open={settling}
        onClose={() => setSettling(false)}
        title="Environments"
        className="!w-[640px]"
      >
        <EnvironmentsForm handle={handle} onLeave={() => setSettling(false)} />
      </Sheet>
      <Sheet
        open={at !== undefined}
        onClose={() => setLooking(null)}
        title={`What was deployed to ${at?.name ?? ""}`}
        className="!w-[560px]"
      >
        {at && (
          <EnvironmentHistory
            environment={at}
            view={view}
            onRollBack={(wish) => {
              setLooking(null);
              setWanted({ ...wish, kind: "roll back" });
            }}
          />
        )}
      </Sheet>
      <DeploySheet handle={handle} wanted={wanted} onWanted={setWanted} />
    </div>
  );
}

/** What is left out of the picture, in words. */
function Remarks({ view: { hidden, more, unlisted, environments } }: { view: WhatIsWhere }) {
  const told = [
    ...(hidden > 0 ? [`${counted(hidden, "item")} outside your view on the way too.`] : []),
    ...(more ? [`Only the ${MOST_ROWS} that were merged last are shown.`] : []),
    ...(unlisted.length > 0 && environments.length > 0
      ? [`Deployments were told of ${unlisted.join(", ")}, which nobody has listed here.`]
      : []),
  ];
  return told.map((words) => (
    <p key={words} className="px-4 pt-2 text-[13px] text-ink-soft">
      {words}
    </p>
  ));
}

function NoEnvironments({
  unlisted,
  mayEdit,
  onList,
}: {
  unlisted: readonly string[];
  mayEdit: boolean;
  onList: () => void;
}) {
  return (
    <div className="mx-auto max-w-[560px] py-14 text-center">
      <p className="text-[15px] font-semibold">Nobody has listed any environment yet.</p>
      <p className="mt-1 text-ink-soft">
        Once they are, each item shows how far it has come on its way to the people who use it.
        {unlisted.length > 0 && ` A pipeline spoke of ${unlisted.join(", ")} already.`}
      </p>
      {mayEdit && (
        <Button className="mt-3" onClick={onList}>
          List the environments
        </Button>
      )}
    </div>
  );
}

function NothingBuilt({ projectKey, mayEdit }: { projectKey: string; mayEdit: boolean }) {
  return (
    <div className="mx-auto max-w-[560px] py-10 text-center">
      <p className="text-[15px] font-semibold">No pipeline has told of a build yet.</p>
      <p className="mt-1 text-ink-soft">
        What is merged stands here once a code host tells of it, and moves on as builds are
        deployed.
      </p>
      {mayEdit && (
        <ButtonLink className="mt-3" href={`/p/${projectKey}/design?place=events`}>
          Connect a pipeline
        </ButtonLink>
      )}
    </div>
  );
}
