/** Readings on their way to the records. Each lies in the browser's own database, with whose it is, until the server says
 * that it is kept. One tab sends at a time; a reading is sent as its author's, or not at all. */
import { useSyncExternalStore } from "react";
import { ApiProblem, api, asked, type Reading } from "../api/client";
import { learned } from "../api/queries";

export interface Refusal {
  status: number;
  message: string;
  errors: { path: string; message: string }[];
}
export interface Waiting {
  id: string;
  tag: number;
  reading: Reading;
  person: number;
  store: number;
  who: string;
  /** Order of keeping. */
  at: number;
  /** Somebody stands by an unlikely time. */
  timeIsRight?: boolean;
  problem?: Refusal;
}
interface Author {
  id: number;
  name: string;
  store: { id: number };
}

const DATABASE = "vane-check";
const WAITING = "waiting";
const RETRY_MS = 2500;
const LOCK = "vane-check-sender";

let waiting: Waiting[] = [];
let author: Author | null = null;
let sending = false;
const listeners = new Set<() => void>();
const tabs = new BroadcastChannel("vane-check-outbox");

const opened: Promise<IDBDatabase | null> = new Promise((found) => {
  const asks = indexedDB.open(DATABASE, 1);
  asks.onupgradeneeded = () => asks.result.createObjectStore(WAITING, { keyPath: "id" });
  asks.onsuccess = () => found(asks.result);
  asks.onerror = () => found(null); // a browser that keeps nothing: what waits lives as long as the page
});

async function inStore<Result>(
  mode: IDBTransactionMode,
  act: (store: IDBObjectStore) => IDBRequest<Result>,
): Promise<Result | null> {
  const database = await opened;
  if (!database) return null;
  return new Promise((found, failed) => {
    const transaction = database.transaction(WAITING, mode, { durability: "strict" });
    const asks = act(transaction.objectStore(WAITING));
    transaction.oncomplete = () => found(asks.result);
    transaction.onerror = () => failed(transaction.error ?? new Error("the browser keeps nothing"));
  });
}

function show(next: Waiting[]) {
  waiting = next.sort((one, other) => one.at - other.at);
  for (const tell of listeners) tell();
}

async function look() {
  const found = await inStore<Waiting[]>("readonly", (store) => store.getAll() as IDBRequest<Waiting[]>);
  if (found) show(found);
}

/** Every change is shown at once, written, and then told to the other tabs. */
async function put(entry: Waiting) {
  show([...waiting.filter((other) => other.id !== entry.id), entry]);
  await inStore("readwrite", (store) => store.put(entry));
  tabs.postMessage("changed");
}

async function remove(id: string) {
  show(waiting.filter((entry) => entry.id !== id));
  await inStore("readwrite", (store) => store.delete(id));
  tabs.postMessage("changed");
}

tabs.onmessage = () => void look().then(send);
void look().then(send);

/** Who types now; what waits is sent only while its author is signed in. */
export function authorIs(person: Author | null) {
  author = person;
  void send();
}

const isMine = (entry: Waiting) => entry.person === author?.id && entry.store === author.store.id;

export const useWaiting = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => waiting,
  );

/** Of what waits, that which is this person's. */
export const mineOf = (all: Waiting[]) => all.filter(isMine);

/** Hand over a reading; it is sent now, or as soon as the server answers again. */
export function keep(tag: number, reading: Reading) {
  if (!author) return;
  const entry: Waiting = {
    id: reading.id ?? "",
    tag,
    reading,
    person: author.id,
    store: author.store.id,
    who: author.name,
    at: Date.now() + waiting.length / 1000,
  };
  void put(entry).then(send, send);
}

/** Throw a reading away that was refused, or that is mended by another. */
export const discard = (id: string) => void remove(id);

/** Send a reading again whose time was asked about: it was taken then. */
export function standByTime(entry: Waiting) {
  const again = { ...entry, timeIsRight: true };
  delete again.problem;
  void put(again).then(send);
}

/** Send what waits, oldest first, one tab at a time. What was refused stays behind and holds nothing up. */
export async function send() {
  if (sending || !author) return;
  sending = true;
  try {
    if ("locks" in navigator)
      await navigator.locks.request(LOCK, { ifAvailable: true }, async (mine) => (mine ? sendAll() : undefined));
    else await sendAll(); // not served securely: two tabs may send the same one, which is kept once
  } finally {
    sending = false;
  }
}

async function sendAll() {
  for (;;) {
    const entry = waiting.find((one) => isMine(one) && !one.problem);
    if (!entry || !(await sendOne(entry))) return;
  }
}

const NOT_NOW = new Set([401, 403, 408, 421, 429]);

async function sendOne(entry: Waiting): Promise<boolean> {
  try {
    const view = await asked(
      api.POST("/api/batteries/{tag}/readings", {
        params: { path: { tag: entry.tag }, query: entry.timeIsRight ? { time_is_right: true } : {} },
        body: entry.reading,
      }),
    );
    await learned(view);
    await new Promise((go) => setTimeout(go)); // until every screen has it: between the two it would be nowhere
    await remove(entry.id);
    return true;
  } catch (error) {
    if (!(error instanceof ApiProblem) || NOT_NOW.has(error.status) || error.status >= 500) return false;
    await put({ ...entry, problem: { status: error.status, message: error.message, errors: error.errors } });
    return true;
  }
}

setInterval(() => void send(), RETRY_MS);
window.addEventListener("online", () => void send());
