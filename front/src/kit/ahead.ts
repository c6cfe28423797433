/** Where the page can be opened without its server, the batteries in hand and the
 * rack are fetched before they are asked for, one at a time. */
import type { QueryKey } from "@tanstack/react-query";
import { battery, equipment, queries, rack, rules, shelf } from "../api/queries";
import { isAway } from "./line";

const EVERY_MS = 500;

/** Returns how to stop. */
export function fetchAhead(): () => void {
  const timer = window.setInterval(() => {
    if (!navigator.serviceWorker?.controller || isAway() || document.hidden) return;
    const next = queries.getQueryData(shelf.queryKey)?.find((one) => {
      const state = queries.getQueryState(battery(one.tag).queryKey);
      return !state || (state.status === "success" && state.isInvalidated && state.fetchStatus === "idle");
    });
    if (next) return void queries.prefetchQuery({ ...battery(next.tag), staleTime: 0, retry: false });
    const unseen = (key: QueryKey) => queries.getQueryState(key) === undefined;
    if (unseen(rack.queryKey)) void queries.prefetchQuery(rack);
    else if (unseen(equipment.queryKey)) void queries.prefetchQuery(equipment);
    else if (unseen(rules.queryKey)) void queries.prefetchQuery(rules);
  }, EVERY_MS);
  return () => clearInterval(timer);
}
