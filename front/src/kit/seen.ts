/** What was last seen, kept on this device for while the server does not answer: judgements, the shelf, who is signed in.
 * A lock takes it away; so does a page that nobody touched for as long as the shop lets one lie open. */
import { hydrate, type DehydratedState, type Query, type QueryClient } from "@tanstack/react-query";
import { isLocked, lock, onLock } from "./locked";
import { storeOnDevice } from "./onDevice";

const DATABASE = "vane-check-seen";
const SEEN = "seen";
const TOUCHED = "vane-check-touched";
const TOUCHED_EVERY_MS = 10_000;
const GATHER_MS = 400;
/** So many are kept, the newest. */
const AT_MOST = 400;

/** Who may sign in is on every sign-in page; the rest belongs to whoever is signed in. */
const FOR_ALL = "people";
const KEPT = new Set([
  FOR_ALL, "me", "reference", "rules", "shelf", "battery", "life", "warranty", "rack", "equipment",
]); // prettier-ignore

interface Record_ {
  hash: string;
  key: readonly unknown[];
  data: unknown;
  at: number;
}

const stored = storeOnDevice<Record_>(DATABASE, SEEN, "hash");

/** A full disk remembers less, it stops nobody's work. */
const within = (act: Parameters<typeof stored.change>[0]) => stored.change(act).catch(() => undefined);

const changed = new Map<string, Query>();
let gathering = 0;

async function write() {
  gathering = 0;
  const now = [...changed.values()];
  changed.clear();
  if (isLocked()) return;
  await within((rows) =>
    now.map(({ queryHash, queryKey, state }) =>
      rows.put({ hash: queryHash, key: queryKey, data: state.data, at: state.dataUpdatedAt }),
    ),
  );
}

/** Keep on the device what is seen from here on. */
export function remember(client: QueryClient) {
  for (const about of ["battery", "life", "warranty"]) client.setQueryDefaults([about], { gcTime: Infinity });
  client.getQueryCache().subscribe(({ type, query }) => {
    if (type !== "updated" || query.state.status !== "success" || !KEPT.has(String(query.queryKey[0]))) return;
    if (query.state.data === undefined) return;
    if (query.queryKey[0] === "me" && query.state.data === null) {
      changed.clear();
      return void forgetSeen(); // the server knows of nobody here: nor does the device
    }
    changed.set(query.queryHash, query as Query);
    gathering ||= window.setTimeout(() => void write(), GATHER_MS);
  });
  onLock(() => {
    changed.clear();
    void forgetSeen();
  });
}

/** Nothing of a person or a customer stays on the device. */
async function forgetSeen() {
  const all = await records();
  await within((rows) => all.filter((one) => one.key[0] !== FOR_ALL).map((one) => rows.delete(one.hash)));
}

async function records(): Promise<Record_[]> {
  const all = (await stored.all().catch(() => null)) ?? [];
  return all.sort((one, other) => other.at - one.at);
}

/** The page was touched: it may go on for as long as the shop lets one lie open. */
export function rememberUse() {
  const now = Date.now();
  if (now - Number(localStorage.getItem(TOUCHED)) > TOUCHED_EVERY_MS) localStorage.setItem(TOUCHED, String(now));
}

interface Signed {
  csrf_token: string;
  store: { idle_minutes: number };
}

/** Put back what was last seen, where nothing newer is known. Gives who is signed in here; null where nobody may go on. */
export async function recall<Me extends Signed>(client: QueryClient): Promise<Me | null> {
  const all = await records();
  const mine = all.find((one) => one.key[0] === "me")?.data as Me | undefined;
  const isOpen = mine !== undefined && !isLocked();
  if (isOpen && Date.now() - Number(localStorage.getItem(TOUCHED)) > mine.store.idle_minutes * 60_000) {
    lock();
    return recall(client);
  }
  const mayBeSeen = all.filter(({ key }) => key[0] === FOR_ALL || (isOpen && key[0] !== "me"));
  hydrate(client, { mutations: [], queries: mayBeSeen.map(asQuery) } satisfies DehydratedState);
  if (all.length > AT_MOST) await within((rows) => all.slice(AT_MOST).map((one) => rows.delete(one.hash)));
  return isOpen ? mine : null;
}

const asQuery = ({ hash, key, data, at }: Record_): DehydratedState["queries"][number] => ({
  queryHash: hash,
  queryKey: key,
  dehydratedAt: at,
  state: {
    data, dataUpdatedAt: at, dataUpdateCount: 1, error: null, errorUpdateCount: 0, errorUpdatedAt: 0, fetchFailureCount: 0,
    fetchFailureReason: null, fetchMeta: null, isInvalidated: true, status: "success", fetchStatus: "idle",
  }, // prettier-ignore
});
