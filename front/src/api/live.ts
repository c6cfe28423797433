/** What changed: put where every screen looks, asked for again, and heard of while somebody else works. */
import type { QueryKey } from "@tanstack/react-query";
import { heard, listenForLine, onBack } from "../kit/line";
import type { Schema } from "./client";
import { battery, equipment, me, people, queries, rack, reference, rules, shelf } from "./queries";

/**
 * Ask again for what may have changed. An answer still on its way was asked for before the change and may not know of
 * it, so it is given up first: invalidating alone would take it for fresh.
 */
export async function askAgain(...keys: QueryKey[]) {
  await Promise.all(
    keys.map(async (queryKey) => {
      await queries.cancelQueries({ queryKey });
      await queries.invalidateQueries({ queryKey });
    }),
  );
}

const OF_A_BATTERY = ["battery", "life", "match", "warranty"];

type View = Schema["CheckView"];

/** Whether one view of a battery is from before another: it has fewer of the entries that are never taken away. */
const isOlder = (one: View, other: View) =>
  one.take_in_id <= other.take_in_id &&
  (one.take_in_id < other.take_in_id ||
    one.readings.length < other.readings.length ||
    (one.judged_at ?? "") < (other.judged_at ?? ""));

/** A battery as the server answered it, put where every screen looks. */
export async function learned(view: Schema["CheckView"]) {
  const { queryKey } = battery(view.tag);
  await queries.cancelQueries({ queryKey });
  const now = queries.getQueryData(queryKey);
  // An answer that was long on its way never writes over what was heard and asked for since: entries are only ever added.
  if (now && isOlder(view, now)) return void askAgain(queryKey);
  queries.setQueryData(queryKey, view);
  const others = OF_A_BATTERY.filter((about) => about !== "battery").map((about) => [about, view.tag]);
  onShelf({
    tag: view.tag,
    place: view.place,
    needs_hand_at: view.needs_hand_at,
    line: view.battery.line ?? "",
    size: view.size,
    outcome: view.judged_at ? view.judgement.outcome : null,
    next_step: view.judged_at ? view.judgement.next_step.key : null,
    charge_low_pct: view.judged_at ? (view.judgement.state_of_charge?.low_pct ?? null) : null,
    charge_high_pct: view.judged_at ? (view.judgement.state_of_charge?.high_pct ?? null) : null,
  });
  void askAgain(...others);
}

type OnShelf = Schema["ShelfBattery"];
interface Told {
  what:
    "battery" | "rules" | "staff" | "erased" | "rack" | "goods" | "import" | "customers" | "transfers" | "everything";
  tag?: number;
  shown?: OnShelf;
}

const GATHER_MS = 120;
const changed = new Map<number, OnShelf>();
let gathering = 0;

/** What changed on the shelf is put there together, a moment after it was told: fifty screens ask for nothing. */
function onShelf(shown: OnShelf) {
  changed.set(shown.tag, shown);
  gathering ||= window.setTimeout(() => {
    gathering = 0;
    const told = new Map(changed);
    changed.clear();
    const put = () => void queries.setQueryData(shelf.queryKey, (before) => before && patched(before, told));
    put();
    // What is on its way may be older than this: it is put there once more.
    if (queries.isFetching(shelf) > 0) afterAnswer(shelf.queryKey, put);
    void askAgain(["checks"], rack.queryKey);
  }, GATHER_MS);
}

/** Do it when what is asked now was answered and stands, or at once where nothing is asked. */
function afterAnswer(queryKey: QueryKey, act: () => void) {
  const soon = () => void setTimeout(act);
  void Promise.resolve(queries.getQueryCache().find({ queryKey, exact: true })?.promise).then(soon, soon);
}

function patched(before: OnShelf[], now: Map<number, OnShelf>): OnShelf[] {
  const left = before.filter((one) => !now.has(one.tag));
  const came = [...now.values()].filter((one) => one.place !== "gone");
  const when = (one: OnShelf) => (one.needs_hand_at ? Date.parse(one.needs_hand_at) : Infinity);
  return [...left, ...came].sort((one, other) => when(one) - when(other) || one.tag - other.tag);
}

/** What the work of others changes all day long. */
const ALL_DAY = [...OF_A_BATTERY, "shelf", "rack"];

/** Ask once more for what is on the screen and was asked for before anything could be heard; what is on its way comes first. */
function sinceBefore() {
  for (const query of queries.getQueryCache().findAll({ type: "active" })) {
    if (!ALL_DAY.includes(String(query.queryKey[0]))) continue;
    afterAnswer(query.queryKey, () => void queries.invalidateQueries({ queryKey: query.queryKey, exact: true }));
  }
}

const RETRY_MS = 2000;

/** Follow what other screens do, for as long as this session lasts. Returns how to stop. */
export function follow(): () => void {
  let source: EventSource | null = null;
  let again = 0;
  let opened = false;
  const everything = () =>
    void askAgain(
      shelf.queryKey,
      ["checks"],
      rack.queryKey,
      equipment.queryKey,
      rules.queryKey,
      reference.queryKey,
      ["goods"],
      ["sale"],
      ["imports"],
      ["customers"],
      ["stores"],
      ...OF_A_BATTERY.map((one) => [one]),
    );
  function open() {
    source = new EventSource("/api/events");
    source.onopen = () => {
      heard();
      if (opened)
        everything(); // what was told while the line was cut is lost
      else sinceBefore(); // so is what was told between an answer and this
      opened = true;
    };
    source.addEventListener("still", heard);
    source.onerror = () => {
      void listenForLine();
      if (source?.readyState !== EventSource.CLOSED) return; // the browser tries again by itself
      void queries.invalidateQueries({ queryKey: me.queryKey });
      again = window.setTimeout(open, RETRY_MS);
    };
    source.onmessage = (event: MessageEvent<string>) => {
      heard();
      hear(JSON.parse(event.data) as Told);
    };
  }
  function hear(told: Told) {
    if (told.what === "rules") void askAgain(rules.queryKey, reference.queryKey, ["battery"]);
    else if (told.what === "staff") void askAgain(people.queryKey, me.queryKey, ["house"], ["stores"]);
    else if (told.what === "transfers") void askAgain(["stores"], ["goods"], ["house", "stores"]);
    else if (told.what === "rack") void askAgain(rack.queryKey, equipment.queryKey, ["battery"]);
    else if (told.what === "goods") void askAgain(["goods"], ["match"], ["sale"]);
    else if (told.what === "customers") void askAgain(["customers"], ["battery"], ["life"], ["checks"]);
    else if (told.what === "import") void askAgain(["imports"]);
    else if (told.tag === undefined || !told.shown) everything();
    else {
      onShelf(told.shown);
      void askAgain(...OF_A_BATTERY.map((about) => [about, told.tag]));
    }
  }
  open();
  const stop = onBack(() => {
    everything();
    void queries.invalidateQueries({ queryKey: me.queryKey }); // whoever went on without it is asked for again
  });
  return () => {
    stop();
    clearTimeout(again);
    source?.close();
  };
}
