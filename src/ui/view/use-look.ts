"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { usePathname, useRouter } from "next/navigation";
import { useRef } from "react";
import { v7 as newId } from "uuid";
import { LONGEST_ADDRESS, plainLook, writeLook, writePlain } from "@/core/view/address";
import type { AskedLook } from "@/core/view/asked-look";
import { EVERY_ITEM } from "@/core/condition/condition";
import { viewContract } from "@/core/view/contract";
import { differences } from "@/core/view/differences";
import { LOOK_PARTS, PLAIN_LOOK, READ_ANEW, sameIn, type Look } from "@/core/view/look";
import type { Sharing, ViewRequest } from "@/core/view/view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import type { LiveMessage } from "@/ui/kit/use-live";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { useFollowedLook } from "./use-followed-look";

const ofViews = ({ kind }: LiveMessage) =>
  kind === "view" || kind === "design" || kind === "resync";

/**
 * How items are looked at now: the view it began as, what differs from it, and the ways to keep
 * that. The address always says it, so that it stays and can be given to somebody.
 */
export function useLook(projectKey: string, asked: AskedLook) {
  const params = { key: projectKey };
  const [client, router] = [useQueryClient(), useRouter()];
  const pathname = usePathname();
  const { data: views } = useQuery({
    ...queryOf(viewContract.read, { params }),
    initialData: asked.views,
  });
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(viewContract.read, { params }) });
  useReadAgain(ofViews, readAgain);
  const view = views.views.find(({ id }) => id === asked.view?.id) ?? asked.view;
  const kept = view?.look ?? asked.kept;
  const { look, putLook, sayOwn } = useFollowedLook(asked.look, kept, view?.name);
  const latest = useRef(0);

  /** What an address begins with and what it says besides, under a short id where that is long. */
  const shortened = async (begun: Record<string, string>, rest: Record<string, string>) => {
    const search = { ...begun, ...rest };
    const whole = new URLSearchParams(search).toString();
    if (whole.length <= LONGEST_ADDRESS) return whole;
    const { id } = await ask(viewContract.shorten, { params, body: { search } });
    return new URLSearchParams({ ...begun, look: id }).toString();
  };
  /** The address of a look, without what else the page has open. */
  const addressOf = (next: Look) =>
    shortened(view ? { view: view.id } : writePlain(kept), writeLook(kept, next));
  const show = async (next: Look, anew: boolean) => {
    const turn = ++latest.current;
    try {
      const address = await addressOf(next);
      // Another change may have come while the short id was asked for.
      if (turn !== latest.current) return;
      if (anew) return router.push(`${pathname}?${address}`);
      const item = new URLSearchParams(window.location.search).get("item");
      const search = new URLSearchParams(address);
      if (item) search.set("item", item);
      window.history.replaceState(null, "", search.size > 0 ? `${pathname}?${search}` : pathname);
    } catch (error) {
      tellProblem(error);
    }
  };
  const change = (parts: Partial<Look>) => {
    const next = { ...look, ...parts };
    putLook(next);
    void show(
      next,
      READ_ANEW.some((part) => !sameIn(part, look, next)),
    );
  };

  const send = async (request: ViewRequest) => {
    if (request.kind === "change") sayOwn();
    await ask(viewContract.change, { params, body: request });
    await readAgain();
  };
  /** Keeps what differs in the view itself. */
  const keep = async () => {
    if (!view) return;
    const parts = LOOK_PARTS.filter((part) => !sameIn(part, kept, look));
    const taken = (of: Look) => Object.fromEntries(parts.map((part) => [part, of[part]]));
    try {
      await send({ kind: "change", id: view.id, version: view.version, changes: taken(look) });
      window.history.replaceState(null, "", `${pathname}?view=${view.id}`);
      tellDone(`“${view.name}” shows it so from now on.`, () =>
        send({ kind: "change", id: view.id, version: view.version + 1, changes: taken(kept) }),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Keeps the look as another view, and opens that. @throws Problem */
  const keepAs = async (name: string, sharing: Sharing) => {
    const id = newId();
    await send({ kind: "make", id, name, sharing, look });
    router.push(`${pathname}?view=${id}`);
    tellDone(`“${name}” is kept.`);
  };
  const drop = () => {
    putLook(kept);
    void show(
      kept,
      READ_ANEW.some((part) => !sameIn(part, look, kept)),
    );
  };
  /** Opens a look for itself, of no view. */
  const openLook = async (next: Look) => {
    try {
      const begun = writePlain(next);
      const address = await shortened(begun, writeLook(plainLook(begun), next));
      router.push(`${pathname}?${address}`);
    } catch (error) {
      tellProblem(error);
    }
  };
  /** A link that shows this to others, whoever the view belongs to. */
  const link = async (): Promise<string> => {
    const own = view?.sharing === "mine";
    const search = await (own ? shortened({}, writeLook(PLAIN_LOOK, look)) : addressOf(look));
    return `${window.location.origin}${pathname}?${search}`;
  };
  return {
    projectKey,
    views,
    view,
    kept,
    look,
    change,
    showAll: () => change({ filter: EVERY_ITEM }),
    differs: differences(kept, look, views),
    keep,
    keepAs,
    drop,
    link,
    openLook,
    readAgain,
    send,
    asked,
  };
}

export type LookHandle = ReturnType<typeof useLook>;
