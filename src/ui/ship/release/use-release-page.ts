"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRouter, useSearchParams } from "next/navigation";
import { v7 as newId } from "uuid";
import { releaseContract } from "@/core/ship/release/contract";
import type { ReleaseNote } from "@/core/ship/release/release-notes";
import type { ReleasePage, Unfinished } from "@/core/ship/release/release-page";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { useReleaseAfter } from "./use-release-after";

/** A release as it is sent out, kept in step; the address names it. */
export function useReleasePage(initial: ReleasePage) {
  const client = useQueryClient();
  const router = useRouter();
  // The one that was looked at first stays, also when it is no more the next one to come.
  const wanted = useSearchParams().get("release") ?? initial.release?.id;
  const params = { key: initial.project.key };
  const first = wanted === initial.release?.id;
  const { data: view = initial } = useQuery({
    ...queryOf(releaseContract.page, { params, query: { release: wanted } }),
    initialData: first ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(releaseContract.page, { params }).slice(0, 2) });
  useReadAgain(
    ({ kind }) => ["item", "code", "tests", "design", "resync"].includes(kind),
    readAgain,
  );
  const look = (id: string) => router.replace(`?release=${id}`, { scroll: false });
  const of = { ...params, release: view.release?.id ?? "" };
  const after = useReleaseAfter({ of, name: view.release?.name ?? "", readAgain });
  const storeNote = async ({ itemId, words, internal }: ReleaseNote) => {
    await ask(releaseContract.note, { params: of, body: { itemId, words, internal } });
    await readAgain();
  };
  /** @returns what was wrong; null where it is kept */
  const note = async (before: ReleaseNote, after: ReleaseNote): Promise<Problem | null> => {
    try {
      await storeNote(after);
      tellDone(`The notes say it of ${after.key}.`, () => storeNote(before));
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  const setOut = async (
    out: boolean,
    unfinished: Unfinished = "stays",
    except: Record<string, Unfinished> = {},
  ) => {
    const { moving } = await ask(releaseContract.out, {
      params: of,
      body: { id: newId(), out, unfinished, except },
    });
    await readAgain();
    return moving;
  };
  /** @returns what was wrong; null where it is out */
  const goOut = async (
    unfinished: Unfinished,
    except: Record<string, Unfinished>,
  ): Promise<Problem | null> => {
    const name = view.release?.name ?? "";
    try {
      const moving = await setOut(true, unfinished, except);
      tellDone(
        `${name} is out.` + (moving > 0 ? ` What becomes of ${moving} is on its way.` : ""),
        async () => void (await setOut(false)),
      );
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  const takeBack = async () => {
    try {
      await setOut(false);
      tellDone(`${view.release?.name ?? ""} is not out.`);
    } catch (error) {
      tellProblem(error);
    }
  };
  const setPublished = async (on: boolean) => {
    await ask(releaseContract.publish, { params, body: { on } });
    await readAgain();
  };
  /** Lets anyone read the notes, or nobody outside any more. */
  const publish = async (on: boolean) => {
    try {
      await setPublished(on);
      tellDone(on ? "Anyone may read the notes now." : "The notes stay inside.", () =>
        setPublished(!on),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Puts an item into another release; it can be taken back. */
  const put = async (
    row: { id: string; key: string; version: number },
    to: { id: string; name: string } | null,
  ) => {
    const changes = { releaseId: to?.id ?? null };
    try {
      const { commandId } = await sendCommand(row.id, {
        ...{ kind: "edit", seenVersion: row.version, changes },
      });
      await readAgain();
      tellDone(to ? `${row.key} is in ${to.name}.` : `${row.key} is in no release.`, async () => {
        await undoCommand(row.id, commandId);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
    }
  };
  return { view, look, note, goOut, takeBack, publish, put, ...after };
}

export type ReleasePageHandle = ReturnType<typeof useReleasePage>;
