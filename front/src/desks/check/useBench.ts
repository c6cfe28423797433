/** What is typed on a check: which rung is open, its drafts, and how they are kept, corrected, undone. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { type Reading, type Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { DraftAt, draftsUnder } from "../../kit/drafts";
import { discard, keep } from "../../kit/outbox";
import { newId } from "../../kit/clock";
import { toolOf, toolUsed } from "../../kit/tools";
import { expectField } from "../../kit/typeAhead";
import { useForeseen, useStanding, type Draft, type Standing } from "./drafts";
import type { Typed } from "./fields";
import { awaits, NAME, nameAfter, sameBody, withdrawalOf, omit, type Named } from "./naming";
import { dueOf, kindOf, likelyNext, RUNGS, type Kind } from "./rungs";
import { METHODS } from "../../api/methods";

interface Opened {
  kind: Kind;
  /** A new form for every opening. */
  turn: number;
  /** The job whose doing is to be proved. */
  job?: Schema["Job"];
}

export type How = "again" | "correct" | "open" | "close";

/** What had the focus when it was asked for. */
interface Asking {
  from: Element | null;
}

const isFree = ({ from }: Asking) => [null, document.body, from].includes(document.activeElement as HTMLElement | null);

/** The press that kept it is over by then, and what it closed is gone. */
const AFTER_A_PRESS_MS = 30;

const NO_SIGNS: Schema["Sign"][] = [];
/** Why a rung is opened although the battery is unsafe. */
const DESPITE = "despite";

export function useBench(view: Schema["CheckView"]) {
  const standing = useStanding(view);
  const place = `check/${view.tag}/`;
  const [drafts, setDrafts] = useState<Record<string, Draft>>({});
  const [opened, setOpened] = useState<Opened | null>(() => {
    const kind = draftsUnder(place).find((one) => RUNGS.some((rung) => rung.kind === one));
    return kind ? { kind: kind as Kind, turn: 0 } : null;
  });
  const [despite, setDespite] = useState("");
  const asksForFocus = useRef<Asking | null>(null);
  /** How to read each form that stands, and which of them were kept and are on their way out: what they still tell is old. */
  const forms = useRef(new Map<Kind, () => Typed>());
  const over = useRef(new Set<Kind>());
  const [keeps, setKeeps] = useState(0);
  const papers = useMemo(
    () => Object.fromEntries(RUNGS.map(({ kind }) => [kind, new DraftAt(place + kind)])) as Record<Kind, DraftAt>,
    [place],
  );
  const foreseen = useForeseen(view, standing, drafts);
  const { data: known } = useQuery(reference);
  const hazards = useMemo(() => new Set(known?.hazards ?? NO_SIGNS), [known]);

  const latest = (kind: Kind) => standing.findLast((entry) => entry.reading.kind === kind);
  const due = dueOf(foreseen.judgement.next_step.key);
  const keptDue = dueOf(view.judgement.next_step.key);
  const isUnsafe = foreseen.judgement.outcome === "unsafe";
  const isClosed = (kind: Kind) =>
    isUnsafe && METHODS[kind].handsOn && despite.trim() === "" && latest(kind) === undefined;
  const isOpen = (kind: Kind) =>
    latest(kind)?.refused
      ? true
      : opened
        ? opened.kind === kind && !isClosed(kind)
        : kind === keptDue && !awaits(standing, kind) && !isClosed(kind);

  /** A typed reading keeps its name and time from the first key to the last, on whatever day that is. */
  function whole(kind: Kind, body: object): Reading {
    const paper = papers[kind];
    const named = paper.get<Named>(NAME) ?? nameAfter(latest(kind)?.refused);
    if (!paper.get(NAME)) paper.set(NAME, named);
    const why = despite.trim() || paper.get<string>(DESPITE);
    const corrected = standing.find((entry) => entry.reading.id === named.replaces)?.reading ?? null;
    const tool = toolUsed(toolOf(kind, view.tools, corrected));
    return { kind, ...(why && METHODS[kind].handsOn ? { reason: why } : {}), ...tool, ...body, ...named } as Reading;
  }

  function stands(kind: Kind, read: () => Typed) {
    forms.current.set(kind, read);
    over.current.delete(kind);
    return () => {
      if (forms.current.get(kind) === read) forms.current.delete(kind);
    };
  }

  function type(kind: Kind, { body, half }: Typed) {
    if (over.current.has(kind)) return;
    const reading = body && whole(kind, body); // now, not when the state is worked out: by then it may have been kept
    setDrafts((before) => {
      if (!reading && !before[kind]) return before;
      const others = omit(before, kind);
      return reading ? { ...others, [kind]: { reading, half } } : others;
    });
  }

  /** Keep what is typed whole; what is half typed stays as it is, for whoever comes back to it. */
  function leave(kind: Kind, body?: object) {
    if (over.current.has(kind)) return;
    const typed = forms.current.get(kind)?.(); // from the form itself: the last key may not be drawn yet
    if (!body && typed?.half) {
      setDrafts((before) => omit(before, kind));
      setOpened((now) => (now?.kind === kind ? null : now));
      return;
    }
    if (drafts[kind] && foreseen.isWrong(kind)) {
      // it would be refused: the fault stands in its field, and what is typed waits there to be mended
      if (!body) setOpened((now) => (now?.kind === kind ? null : now));
      return;
    }
    const says = body ?? (typed ? typed.body : drafts[kind]?.reading);
    const reading = says ? whole(kind, says) : undefined;
    const corrected = standing.find((entry) => entry.reading.id === reading?.replaces && !entry.refused);
    const unchanged = corrected && reading && sameBody(corrected.reading, reading);
    const refused = latest(kind)?.refused;
    if (reading && refused && !unchanged) discard(refused.id);
    if (reading && !unchanged) keep(view.tag, reading);
    if (reading) {
      over.current.add(kind);
      papers[kind].clear();
      setDrafts((before) => omit(before, kind));
    }
    const next = reading && !unchanged && kind === (opened?.kind ?? keptDue) ? nextRung(kind, reading) : null;
    if (body && reading && !next) {
      asksForFocus.current = { from: document.activeElement };
      setKeeps((count) => count + 1);
    }
    if (next && next !== "look") expectField(); // the next figure's keys are its own from now on; a look has none
    setOpened((now) => {
      if (next) return { kind: next, turn: (now?.turn ?? 0) + 1 };
      return now?.kind === kind ? null : now; // another may have been opened in the meantime
    });
  }

  /** Which rung takes the next keys: as foreseen for just this reading, else the next in the order of work. */
  function nextRung(kind: Kind, reading: Reading): Kind | null {
    if (foreseen.isAnswered && drafts[kind]?.reading?.id === reading.id) return dueOf(foreseen.judgement.next_step.key);
    const deciding = (known?.rules["decision.deciding_kinds"]?.value ?? []) as Kind[];
    return likelyNext(reading, view, deciding, (other) => other === kind || latest(other) !== undefined);
  }

  function withdraw(entry: Standing, reason = "") {
    const kind = kindOf(entry.reading);
    keep(view.tag, withdrawalOf(entry, reason));
    throwAway(kind);
  }

  function throwAway(kind: Kind) {
    over.current.add(kind);
    papers[kind].clear();
    setDrafts((before) => omit(before, kind));
    setOpened(null);
  }

  function open(kind: Kind, how: How) {
    if (how === "close") return leave(kind);
    if (isClosed(kind)) return;
    asksForFocus.current = null; // whoever goes on by hand is not called back
    const before = RUNGS.find((rung) => isOpen(rung.kind))?.kind;
    if (before && before !== kind) leave(before); // wherever the focus stood in it: what is whole is kept
    const paper = papers[kind];
    const now = latest(kind);
    if (how === "again") paper.clear();
    else if (!paper.isThere && how === "correct" && now && !now.refused)
      paper.set(NAME, { id: newId(), taken_at: now.reading.taken_at, replaces: now.reading.id ?? "" });
    setOpened({ kind, turn: (opened?.turn ?? 0) + 1 });
  }

  /** A job may be done: the rung opens that proves it. What was done is changed there by hand. */
  function proveJob(job: Schema["Job"]) {
    if (!job.proof) return;
    const kind = job.proof as Kind;
    open(kind, kind === "look" ? "open" : "again");
    setOpened((now) => now && { ...now, job });
  }

  // After the last keep the focus goes to what is to be done next, if nothing else has taken it since: keys on their way
  // to a field must never press a button.
  const step = foreseen.judgement.next_step.key;
  useEffect(() => {
    const asking = asksForFocus.current;
    if (!asking || foreseen.asking) return;
    if (dueOf(step) !== null) {
      asksForFocus.current = null;
      return;
    }
    const later = window.setTimeout(() => {
      if (asksForFocus.current !== asking) return;
      asksForFocus.current = null;
      if (isFree(asking)) document.querySelector<HTMLElement>("[data-next]")?.focus();
    }, AFTER_A_PRESS_MS);
    return () => window.clearTimeout(later);
  }, [keeps, foreseen.asking, step]);

  /** The last entry that stands, to be undone by one key. */
  const last = standing
    .filter((entry) => !entry.refused)
    .toSorted(byTime)
    .at(-1);

  return {
    standing, drafts, papers, foreseen, known, hazards, latest, due, isUnsafe, isClosed, isOpen, type, stands, leave, withdraw, throwAway, proveJob,
    open, opened, despite, setDespite, last,
  }; // prettier-ignore
}

const byTime = (one: Standing, other: Standing) =>
  (one.keptAt ?? "9").localeCompare(other.keptAt ?? "9") || one.reading.taken_at.localeCompare(other.reading.taken_at);
