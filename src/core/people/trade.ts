import { z } from "zod";
import { foldCase } from "@/core/formats/fold-case";

/*
 * A trade is what somebody is good for in a project, in a word or two of its own: tester, server
 * administrator. Other than a duty it asks nothing of them: it helps to find who can do something.
 */

export const MOST_TRADES = 8;
export const LONGEST_TRADE = 30;

/** The trades of somebody; one that is said twice is kept once, as it was written first. */
export const tradesSchema = z
  .array(
    z
      .string()
      .trim()
      .min(1, "A trade is a word or two.")
      .max(LONGEST_TRADE, `A trade has at most ${LONGEST_TRADE} characters.`),
  )
  .max(MOST_TRADES, `Somebody has at most ${MOST_TRADES} trades here.`)
  .transform(eachOnce);

function eachOnce(trades: readonly string[]): string[] {
  const known = new Map<string, string>();
  for (const trade of trades) if (!known.has(foldCase(trade))) known.set(foldCase(trade), trade);
  return [...known.values()];
}

/** Trades as somebody writes them in one line: "tester, server administrator". */
export const tradesIn = (line: string): string[] =>
  line
    .split(/[,;\n]/)
    .map((trade) => trade.trim())
    .filter((trade) => trade !== "");

/** The same line again: what `tradesIn` reads. */
export const tradesLine = (trades: readonly string[]): string => trades.join(", ");

interface HasTrades {
  id: string;
  trades: readonly string[];
}

/** The trades of some people in the order of their names, each with whose it is. */
export function peopleByTrade(people: readonly HasTrades[]): { trade: string; ids: string[] }[] {
  const byTrade = new Map<string, { trade: string; ids: string[] }>();
  for (const { id, trades } of people)
    for (const trade of trades) {
      const of = byTrade.get(foldCase(trade)) ?? { trade, ids: [] };
      byTrade.set(foldCase(trade), of);
      of.ids.push(id);
    }
  return [...byTrade.values()].sort((a, b) => a.trade.localeCompare(b.trade, "en"));
}
