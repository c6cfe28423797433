/** What changed: put where every screen looks, asked for again, and heard of while somebody else works. */
import { hashKey, type Query, type QueryKey } from "@tanstack/react-query";
import { heard, listenForLine, onBack } from "../kit/line";
import { spoken } from "../language/speak";
import type { Schema } from "./client";
import { countOf, countOfAnswer, countsFrom, knowsOf, stands } from "./counts";
import { battery, equipment, me, people, queries, rack, reference, rules, shelf } from "./queries";

/**
 * Ask again for what may have changed. An answer still on its way was asked for before the change and may not know of
 * it, so it is given up first: invalidating alone would take it for fresh.
 */
export const askAgain = (...keys: QueryKey[]) => askSince(Infinity, ...keys);

/** The same for a change of this count: what was answered knowing of it is left alone. */
async function askSince(count: number, ...keys: QueryKey[]) {
  const predicate = ({ queryHash }: Query) => !knowsOf(queryHash, count);
  await Promise.all(
    keys.map(async (queryKey) => {
      await queries.cancelQueries({ queryKey, predicate });
      await queries.invalidateQueries({ queryKey, predicate });
    }),
  );
}

/** The answer to a write, put where every screen looks; where something newer stands already, it is asked for again. */
export function put(queryKey: QueryKey, answer: unknown) {
  const hash = hashKey(queryKey);
  const count = countOfAnswer(answer);
  if (knowsOf(hash, count)) return void askAgain(queryKey);
  queries.setQueryData(queryKey, answer);
  stands(hash, answer);
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
export async function learn(view: Schema["CheckView"]) {
  const { queryKey } = battery(view.tag);
  await queries.cancelQueries({ queryKey });
  const now = queries.getQueryData(queryKey);
  // An answer that was long on its way never writes over what was heard and asked for since: entries are only ever added.
  if (now && isOlder(view, now)) return void askAgain(queryKey);
  queries.setQueryData(queryKey, view);
  const count = countOfAnswer(view);
  stands(hashKey(queryKey), view);
  // what was told before this came may not be in it
  if ((lastTold.get(view.tag) ?? -1) >= count) void askAgain(queryKey);
  const others = OF_A_BATTERY.filter((about) => about !== "battery").map((about) => [about, view.tag]);
  onShelf(count, {
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
  /** The count of this change; none where everything is to be asked for again. */
  count?: number;
}

const GATHER_MS = 120;
const changed = new Map<number, { shown: OnShelf; count: number }>();
/** The last change that was told of a battery. */
const lastTold = new Map<number, number>();
let gathering = 0;

/** What changed on the shelf is put there together, a moment after it was told: fifty screens ask for nothing. */
function onShelf(count: number, shown: OnShelf) {
  if (count < (lastTold.get(shown.tag) ?? -1)) return; // somebody's later work is on the shelf already
  changed.set(shown.tag, { shown, count });
  gathering ||= window.setTimeout(() => {
    gathering = 0;
    const batteries = [...changed.values()];
    changed.clear();
    const put = () => {
      const known = countOf(hashKey(shelf.queryKey));
      const news = new Map(batteries.filter((one) => one.count >= known).map((one) => [one.shown.tag, one.shown]));
      queries.setQueryData(shelf.queryKey, (before) => before && patched(before, news));
    };
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

/** Ask once more for what was answered before this count; what is on its way comes first. */
function since(count: number) {
  if (countsFrom(count)) lastTold.clear();
  for (const query of queries.getQueryCache().findAll())
    afterAnswer(query.queryKey, () => {
      if (countOf(query.queryHash) < count) void queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
    });
}

const RETRY_MS = 2000;

/** Follow what other screens do, for as long as this session lasts. Returns how to stop. */
export function follow(): () => void {
  let source: EventSource | null = null;
  let again = 0;
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
    source.onopen = heard;
    // what was told before this was opened, or while the line was cut, is lost; where nobody knows the count, everything may be
    source.addEventListener("count", ({ data }: MessageEvent<string>) => since(data ? Number(data) : Infinity));
    source.addEventListener("still", heard);
    source.onerror = () => {
      void listenForLine();
      if (source?.readyState !== EventSource.CLOSED) return; // the browser tries again by itself
      void queries.invalidateQueries({ queryKey: me.queryKey });
      again = window.setTimeout(open, RETRY_MS);
    };
    source.onmessage = (event: MessageEvent<string>) => {
      heard();
      hear(spoken(JSON.parse(event.data) as Told));
    };
  }
  function hear({ what, tag, shown, count = Infinity }: Told) {
    const ask = (...keys: QueryKey[]) => void askSince(count, ...keys);
    if (what === "rules") ask(rules.queryKey, reference.queryKey, ["battery"]);
    else if (what === "staff") ask(people.queryKey, me.queryKey, ["house"], ["stores"]);
    else if (what === "transfers") ask(["stores"], ["goods"], ["house", "stores"]);
    else if (what === "rack") ask(rack.queryKey, equipment.queryKey, ["battery"]);
    else if (what === "goods") ask(["goods"], ["match"], ["sale"]);
    else if (what === "customers") ask(["customers"], ["battery"], ["life"], ["checks"]);
    else if (what === "import") ask(["imports"]);
    else if (tag === undefined || !shown) everything();
    else {
      lastTold.set(tag, count);
      onShelf(count, shown);
      ask(...OF_A_BATTERY.map((about) => [about, tag]));
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
