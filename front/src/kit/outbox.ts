/** Readings and take-ins on their way to the records. Each lies in the browser's own database, with whose it is, until the server says
 * that it is kept. One tab sends at a time; a reading is sent as its author's, or not at all. */
import { storeOnDevice } from "./onDevice";
import { useSyncExternalStore } from "react";
import { ApiProblem, api, answerOf, writeHeader, type Reading, type Schema } from "../api/client";
import { learn } from "../api/live";
import { newId } from "./clock";
import { toBeTagged } from "./toTag";
import { t } from "../language/t";

export interface Refusal {
  status: number;
  message: string;
  errors: { path: string; message: string; key?: string | undefined }[];
}
interface Mine {
  id: string;
  person: number;
  store: number;
  who: string;
  /** Order of keeping. */
  at: number;
  problem?: Refusal;
}
export interface Waiting extends Mine {
  tag: number;
  reading: Reading;
  /** Somebody stands by an unlikely time. */
  timeIsRight?: boolean;
}
/** A battery that was written in while nobody could give it a tag. Its name is that of the write. */
export interface WaitingTakeIn extends Mine {
  takeIn: Schema["TakeIn"];
  labelIsRight: boolean;
  /** As it was typed, to be mended at the counter. */
  typed: Record<string, unknown>;
}
type Entry = Waiting | WaitingTakeIn;
const isReading = (entry: Entry): entry is Waiting => "reading" in entry;
interface Author {
  id: number;
  name: string;
  store: { id: number };
}

/** What the server says when the figures of a label hardly go together. */
export const LOOK_AGAIN = t("outbox.look_at_the_label_again");

const DATABASE = "vane-check";
const WAITING = "waiting";
const RETRY_MS = 2500;
const LOCK = "vane-check-sender";

let waiting: Entry[] = [];
let readings: Waiting[] = [];
let takeIns: WaitingTakeIn[] = [];
let author: Author | null = null;
let sending = false;
const listeners = new Set<() => void>();
const tabs = new BroadcastChannel("vane-check-outbox");

const stored = storeOnDevice<Entry>(DATABASE, WAITING, "id");

function show(next: Entry[]) {
  waiting = next.sort((one, other) => one.at - other.at);
  readings = waiting.filter(isReading);
  takeIns = waiting.filter((entry): entry is WaitingTakeIn => !isReading(entry));
  for (const tell of listeners) tell();
}

async function look() {
  const writes = await stored.all();
  if (writes) show(writes);
}

/** Every change is shown at once, written, and then told to the other tabs. */
async function put(entry: Entry) {
  show([...waiting.filter((other) => other.id !== entry.id), entry]);
  await stored.change((rows) => [rows.put(entry)], "strict");
  tabs.postMessage("changed");
}

async function remove(id: string) {
  show(waiting.filter((entry) => entry.id !== id));
  await stored.change((rows) => [rows.delete(id)], "strict");
  tabs.postMessage("changed");
}

tabs.onmessage = () => void look().then(send);
void look().then(send);

/** Who types now; what waits is sent only while its author is signed in. */
export function authorIs(person: Author | null) {
  author = person;
  show([...waiting]); // what of it is theirs has changed
  void send();
}

const isMine = (entry: Entry) => entry.person === author?.id && entry.store === author.store.id;

export const useWaiting = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => readings,
  );

export const useWaitingTakeIns = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => takeIns,
  );

/** Of what waits, that which is this person's. */
export const mineOf = <One extends Entry>(all: One[]) => all.filter(isMine);

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

/** Hand over a battery that nobody can give a tag now; it gets one as soon as the server answers again. */
export function keepTakeIn(
  takeIn: Schema["TakeIn"],
  writeId: string,
  labelIsRight: boolean,
  typed: Record<string, unknown>,
) {
  if (!author) return;
  const whose = { person: author.id, store: author.store.id, who: author.name };
  void put({ id: writeId, takeIn, labelIsRight, typed, ...whose, at: Date.now() + waiting.length / 1000 }).then(
    send,
    send,
  );
}

/** Send a take-in again whose label hardly goes together: somebody looked at it again. */
export function standByLabel(entry: WaitingTakeIn) {
  const again = { ...entry, id: newId(), labelIsRight: true }; // with other contents it is another write
  delete again.problem;
  void remove(entry.id).then(() => put(again).then(send));
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

/** How long it is said that what waited was sent. */
const SHOWN_MS = 12_000;
let sentLate = 0;
let shownUntil = 0;

/** How many readings that had waited for the line were sent just now; 0 a while after. */
export const useSentLate = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => sentLate,
  );

function lateIsSent() {
  sentLate += 1;
  window.clearTimeout(shownUntil);
  shownUntil = window.setTimeout(() => {
    sentLate = 0;
    show(waiting);
  }, SHOWN_MS);
}

const waited = new Set<string>();

const NOT_NOW = new Set([401, 403, 408, 421, 429]);

const sent = (entry: Entry) =>
  isReading(entry)
    ? api.POST("/api/batteries/{tag}/readings", {
        params: { path: { tag: entry.tag }, query: entry.timeIsRight ? { time_is_right: true } : {} },
        body: entry.reading,
      })
    : api.POST("/api/batteries", {
        params: { ...writeHeader(entry.id), query: entry.labelIsRight ? { label_is_right: true } : {} },
        body: entry.takeIn,
      });

async function sendOne(entry: Entry): Promise<boolean> {
  try {
    const view = await answerOf<Schema["CheckView"]>(sent(entry));
    await learn(view);
    if (!isReading(entry)) toBeTagged(view);
    await new Promise((go) => setTimeout(go)); // until every screen has it: between the two it would be nowhere
    if (waited.delete(entry.id) && isReading(entry)) lateIsSent();
    await remove(entry.id);
    return true;
  } catch (error) {
    if (!(error instanceof ApiProblem) || NOT_NOW.has(error.status) || error.status >= 500) {
      for (const one of waiting) waited.add(one.id);
      return false;
    }
    await put({ ...entry, problem: { status: error.status, message: error.message, errors: error.errors } });
    return true;
  }
}

setInterval(() => void send(), RETRY_MS);
window.addEventListener("online", () => void send());
