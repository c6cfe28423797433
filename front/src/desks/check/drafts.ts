/** What is being typed on the Check desk, and the check as it would be with it. */
import { useMemo } from "react";
import { useQuery } from "@tanstack/react-query";
import { ApiProblem, type Reading, type Schema } from "../../api/client";
import { assessment } from "../../api/queries";
import { useSettled } from "../../kit/useSettled";
import { mineOf, useWaiting, type Waiting } from "../../kit/outbox";

export type Kind = Reading["kind"] & string;

/** A rung's reading while it is typed: whole enough to be judged, or not yet. */
export interface Draft {
  reading: Reading | null;
  /** More of a figure is on its way. */
  half: boolean;
}

/** An entry that stands: kept, or waiting to be sent. */
export interface Standing {
  reading: Reading;
  keptAt: string | null;
  who: string;
  refused?: Waiting;
}

/** How long typing may pause before the vane is asked. */
const PAUSE_MS = 12;

/** Of entries kept and waiting, those that stand: not replaced by one that is in force, nor taken back. As the core says. */
export function standing(all: Standing[]): Standing[] {
  const good = all.filter((entry) => !entry.refused);
  const inForce = (id: string | null | undefined, seen: string[] = []): boolean =>
    !good.some(
      ({ reading }) =>
        reading.kind === "withdrawal" &&
        reading.replaces === id &&
        !seen.includes(reading.id ?? "") &&
        inForce(reading.id, [...seen, reading.id ?? ""]),
    );
  const forced = good.filter(({ reading }) => inForce(reading.id));
  const replaced = new Set(forced.map(({ reading }) => reading.replaces).filter(Boolean));
  return all.filter(
    (entry) =>
      entry.refused ||
      (forced.includes(entry) && !replaced.has(entry.reading.id) && entry.reading.kind !== "withdrawal"),
  );
}

/** The entries of a battery that stand, this person's waiting ones put in. */
export function useStanding(view: Schema["CheckView"]): Standing[] {
  const waiting = useWaiting();
  return useMemo(() => {
    const fromServer = view.readings.map((one) => ({
      reading: one.reading as Reading,
      keptAt: one.kept_at,
      who: one.who,
    }));
    const mine = mineOf(waiting)
      .filter(
        (entry) =>
          entry.tag === view.tag &&
          !fromServer.some(({ reading }) => reading.id === entry.reading.id && !entry.problem),
      )
      .map((entry) => ({
        reading: entry.reading,
        keptAt: null,
        who: "",
        ...(entry.problem ? { refused: entry } : {}),
      }));
    return standing([...fromServer, ...mine]);
  }, [view, waiting]);
}

/** No form has a field for these: what is wrong with them is said when it is sent, and never stops a Keep without a word. */
const UNSEEN: ReadonlySet<string> = new Set(["", "id", "taken_at", "replaces"]);

export interface Foreseen {
  judgement: Schema["Judgement"];
  /** Faults of what is typed, by kind and field. */
  faultOf: (kind: string, field: string) => string | undefined;
  /** Whether what is typed of a kind cannot be, as far as it was asked. */
  isWrong: (kind: string) => boolean;
  asking: boolean;
  /** Whether the judgement is of just what stands and is typed: answered, and not the kept one for want of an answer. */
  isAnswered: boolean;
  /** The check as it stands and is typed, once the hand has paused. */
  check: Schema["CheckFile"];
}

/** The judgement with what is typed: the kept one while nothing is. */
export function useForeseen(view: Schema["CheckView"], standing: Standing[], drafts: Record<string, Draft>): Foreseen {
  const typed = useMemo(
    () => Object.values(drafts).flatMap((draft) => (draft.reading ? [draft.reading] : [])),
    [drafts],
  );
  const usable = standing.filter((entry) => !entry.refused);
  const ahead = typed.length > 0 || usable.some((entry) => entry.keptAt === null);
  const check = useMemo(() => {
    const replaced = new Set(typed.map((reading) => reading.replaces).filter(Boolean));
    const readings = [...usable.map((entry) => entry.reading).filter((reading) => !replaced.has(reading.id)), ...typed];
    return {
      format: "vane-check/1",
      battery: view.battery,
      context: view.context,
      at_hand: view.at_hand,
      readings,
    } as Schema["CheckFile"];
    // eslint-disable-next-line react-hooks/exhaustive-deps -- usable is made anew each time from standing
  }, [view, standing, typed]);
  const settled = useSettled(check, PAUSE_MS);
  const { data, error, isFetching, isPlaceholderData } = useQuery({ ...assessment(settled), enabled: ahead });
  const problem = ahead && error instanceof ApiProblem ? error : null;
  const isAnswered = ahead && !isFetching && !isPlaceholderData && settled === check && data !== undefined && !error;
  return useMemo(() => {
    const kindOf = (path: string) => {
      const index = /^readings\[(\d+)\]/.exec(path)?.[1];
      return index === undefined ? undefined : settled.readings?.[Number(index)]?.kind;
    };
    const faults = (problem?.errors ?? []).map((fault) => ({
      kind: kindOf(fault.path),
      field: fault.path.replace(/^readings\[\d+\]\.?/, ""),
      message: fault.message,
    }));
    return {
      judgement: ahead && data ? data : view.judgement,
      faultOf: (kind, field) => faults.find((fault) => fault.kind === kind && fault.field === field)?.message,
      isWrong: (kind) =>
        settled === check && !isFetching && faults.some((fault) => fault.kind === kind && !UNSEEN.has(fault.field)),
      asking: isFetching || settled !== check,
      isAnswered,
      check: settled,
    };
  }, [ahead, data, isAnswered, problem, settled, check, view.judgement, isFetching]);
}
