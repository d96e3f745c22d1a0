"use client";
import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { Column } from "@/core/board/column";
import { planContract } from "@/core/plan/contract";
import { LOOSE_DAYS, type ReleaseItem, type ReleasesView } from "@/core/plan/release-view";
import type { TimeboxRequest } from "@/core/plan/request";
import { useBulk } from "@/ui/bulk/use-bulk";
import { Check } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, problemWords, queryOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** Makes a release of what a column has that is in none, or puts it into one that is to come. */
export function ReleaseOfColumn({
  projectKey,
  column,
  onLeave,
}: {
  projectKey: string;
  column: Column;
  onLeave: () => void;
}) {
  const { data, error } = useQuery({
    ...queryOf(planContract.releases, { params: { key: projectKey } }),
    // What is chosen must not change under the hands.
    staleTime: Infinity,
    refetchOnWindowFocus: false,
  });
  const loose = data?.loose.filter(({ stateId }) => column.stateIds.includes(stateId)) ?? [];
  return (
    <Sheet
      open
      onClose={onLeave}
      title={`Send out what came to ${column.stage}`}
      className="!w-[560px]"
    >
      {error ? (
        <p className="text-alarm">{problemWords(problemOf(error))}</p>
      ) : !data ? (
        <p role="status" className="text-ink-soft">
          Reading what is in no release …
        </p>
      ) : loose.length === 0 ? (
        <p className="text-ink-soft">
          All that came here in the last {LOOSE_DAYS} days is in a release.
        </p>
      ) : !data.rights.plan ? (
        <p className="text-ink-soft">Somebody who plans in this project can send it out.</p>
      ) : (
        <ReleaseForm view={data} loose={loose} onLeave={onLeave} />
      )}
    </Sheet>
  );
}

const NEW = "new";

function ReleaseForm({
  view: { project, today, releases, loose: latest, looseTotal },
  loose,
  onLeave,
}: {
  view: ReleasesView;
  loose: readonly ReleaseItem[];
  onLeave: () => void;
}) {
  const router = useRouter();
  const bulk = useBulk(project.key);
  const change = (body: TimeboxRequest) =>
    ask(planContract.change, { params: { key: project.key }, body });
  const toCome = releases.filter(({ releasedAt }) => releasedAt === null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [into, setInto] = useState(NEW);
  const [name, setName] = useState("");
  const [dueOn, setDueOn] = useState(today);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const ids = loose.map(({ id }) => id).filter((id) => !left.has(id));
  const turn = (id: string) =>
    setLeft(new Set(left.has(id) ? [...left].filter((one) => one !== id) : [...left, id]));
  const send = async () => {
    if (busy) return;
    if (ids.length === 0) return setProblem("Choose what goes out.");
    setBusy(true);
    try {
      const made = into === NEW ? newId() : null;
      const release = { id: made ?? into, name, dueOn: dueOn || null, released: false, why: "" };
      if (made) await change({ kind: "release", release });
      const changes = { releaseId: release.id };
      const job = await bulk.carryOut({ ids }, { kind: "set", changes, own: {} });
      const called = made ? name : toCome.find(({ id }) => id === into)!.name;
      tellDone(`${ids.length} put into ${called}.`, async () => {
        await bulk.undo(job);
        if (made) await change({ kind: "remove release", id: made }).catch(tellProblem);
      });
      router.push(`/p/${project.key}/ship/releases?release=${release.id}`);
    } catch (wrong) {
      setProblem(problemWords(problemOf(wrong)));
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="Send it out"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p className="text-ink-soft">
        {loose.length} {loose.length === 1 ? "is" : "are"} in no release, of what was delivered in
        the last {LOOSE_DAYS} days.
      </p>
      <ul className="max-h-[240px] overflow-y-auto" aria-label="What is in no release">
        {loose.map(({ id, key, title, typeId, deliveredOn }) => (
          <li
            key={id}
            className="flex items-center justify-between gap-3 border-b border-line py-0.5"
          >
            <Check checked={!left.has(id)} onChange={() => turn(id)}>
              <span className="flex max-w-[420px] items-center gap-1.5">
                <TypeGlyph typeId={typeId} />
                <span className="key shrink-0">{key}</span>
                <span className="truncate">{title}</span>
              </span>
            </Check>
            <span className="shrink-0 pr-2 text-[12.5px] text-ink-soft">
              {deliveredOn && shortDate(deliveredOn)}
            </span>
          </li>
        ))}
      </ul>
      {looseTotal > latest.length && (
        <p className="text-[12.5px] text-ink-soft">
          Looked for among the latest {latest.length} of {looseTotal} that are in no release.
        </p>
      )}
      <Field label="They go out with">
        <Select
          label="They go out with"
          value={into}
          options={[
            { value: NEW, label: "a release of their own" },
            ...toCome.map((one) => ({ value: one.id, label: one.name })),
          ]}
          onChange={setInto}
        />
      </Field>
      {into === NEW && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Its name">
            <TextInput
              required
              autoFocus
              maxLength={60}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Field>
          <Field label="Its day">
            <DateInput className="" value={dueOn} onChange={setDueOn} />
          </Field>
        </div>
      )}
      <FormFooter
        send={`Put ${ids.length} into it`}
        busy={busy}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}
