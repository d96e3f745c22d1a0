"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { planContract } from "@/core/plan/contract";
import type { PieceTreeView, TreePiece, TreeStory } from "@/core/plan/piece-view";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { keyOf, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The large pieces of a project, kept in step; what is put elsewhere can be taken back. */
export function usePieces(initial: PieceTreeView) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(planContract.pieces, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: query.queryKey }),
      client.invalidateQueries({ queryKey: keyOf(planContract.piece, { params }) }),
    ]);
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  /** Carries out commands on one item, one after the other, and says what was done. */
  const send = async (id: string, commands: readonly SentCommand[], done: string) => {
    const sent: string[] = [];
    try {
      for (const command of commands) sent.push((await sendCommand(id, command)).commandId);
      await readAgain();
      tellDone(done, async () => {
        for (const commandId of sent.toReversed()) await undoCommand(id, commandId);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
      await readAgain();
    }
  };
  /** Puts something under a large piece, or under none. */
  const putUnder = (
    { id, key }: Pick<TreePiece | TreeStory, "id" | "key">,
    parent: Pick<TreePiece, "key" | "title"> | null,
  ) =>
    send(
      id,
      [{ kind: "put under", parentKey: parent?.key ?? null }],
      parent ? `${key} stands under ${parent.title}.` : `${key} stands under nothing now.`,
    );
  /** Puts a piece right behind another one, under what that one stands under. */
  const putBehind = (piece: TreePiece, other: TreePiece) => {
    const parent = view.pieces.find(({ id }) => id === other.parentId) ?? null;
    const moves: SentCommand[] =
      piece.parentId === other.parentId
        ? []
        : [{ kind: "put under", parentKey: parent?.key ?? null }];
    return send(
      piece.id,
      [...moves, { kind: "place", below: other.id }],
      `${piece.key} comes behind ${other.key}.`,
    );
  };
  return { view, putUnder, putBehind };
}

export type PiecesHandle = ReturnType<typeof usePieces>;

/** What stands directly under a large piece, and how it got on; read when it is unfolded. */
export function usePiece(projectKey: string, pieceId: string | null) {
  return useQuery({
    ...queryOf(planContract.piece, { params: { key: projectKey, piece: pieceId ?? "" } }),
    enabled: pieceId !== null,
  });
}
