/** Where the page can be opened without its server, the batteries in the house and the rack are fetched before they are
 * asked for: one at a time, slower where the server is slow, and what only changed since a good deal more seldom. */
import type { QueryKey } from "@tanstack/react-query";
import { battery, equipment, queries, rack, rules, shelf } from "../api/queries";
import { isAway } from "./line";

const REST_MS = 500;
/** A device leaves the server so many times as long alone as it took to answer. */
const LEAVES_ALONE = 4;
/** What is there and changed elsewhere is fetched anew no more often than this: fifty screens see every change. */
const CHANGED_EVERY_MS = 10_000;

/** Returns how to stop. */
export function fetchAhead(): () => void {
  let changedAt = 0;
  let timer = window.setTimeout(() => void next(), REST_MS);
  let stopped = false;

  async function next() {
    const began = performance.now();
    if (navigator.serviceWorker?.controller && !isAway() && !document.hidden) await one();
    const took = performance.now() - began;
    if (!stopped) timer = window.setTimeout(() => void next(), Math.max(REST_MS, took * LEAVES_ALONE));
  }

  async function one() {
    // what every battery needs comes before any one of them
    for (const query of [rack, equipment, rules] as const) if (isUnseen(query.queryKey)) return fetchOne(query);
    const here = queries.getQueryData(shelf.queryKey) ?? [];
    const unseen = here.find(({ tag }) => isUnseen(battery(tag).queryKey));
    if (unseen) return queries.prefetchQuery({ ...battery(unseen.tag), retry: false });
    if (Date.now() - changedAt < CHANGED_EVERY_MS) return;
    const changed = [rack, equipment, rules, ...here.map(({ tag }) => battery(tag))].find(
      ({ queryKey }) => queries.getQueryState(queryKey)?.isInvalidated,
    );
    if (!changed) return;
    changedAt = Date.now();
    await fetchOne({ ...changed, staleTime: 0, retry: false } as Asked);
  }

  return () => {
    stopped = true;
    clearTimeout(timer);
  };
}

/** Nobody asked for it yet, or what was asked was given up for a change: then nobody holds it and nobody asks. */
function isUnseen(key: QueryKey) {
  const state = queries.getQueryState(key);
  return state === undefined || (state.status === "pending" && state.fetchStatus === "idle");
}

type Asked = typeof rack | typeof equipment | typeof rules;

const fetchOne = (asked: Asked) => queries.prefetchQuery(asked as typeof rack);
