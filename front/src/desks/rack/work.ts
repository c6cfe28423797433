/** What is done at the rack: each action once, by name; the answer is the rack as it stands after it. */
import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { askAgain, put } from "../../api/live";
import { queries, rack } from "../../api/queries";
import { newId } from "../../kit/clock";
import { t } from "../../language/t";

export type Rack = Schema["RackView"];
export type Slot = Schema["Slot"];
export type Hand = Schema["Hand"];

type Figures = { amps: number | null; volts: number | null };
export type Work =
  | { does: "connect"; tag: number; charger_id: number; output: number; figures?: Figures }
  | { does: "note"; tag: number; figures: Figures }
  | { does: "off"; tag: number; how: "full" | "early"; figures: Figures }
  | {
      does: "promise";
      tag: number;
      promised_at: string | null;
      priority: Schema["Promised"]["priority"];
      closedIsRight?: boolean | undefined;
    }
  | { does: "pin"; tag: number; charger_id: number | null; output: number };

function send(work: Work, id: string): Promise<Rack> {
  const params = { path: { tag: work.tag }, ...writeHeader(id) };
  const none = { amps: null, volts: null };
  switch (work.does) {
    case "connect":
      return answerOf(
        api.POST("/api/batteries/{tag}/charge", {
          params,
          body: { charger_id: work.charger_id, output: work.output, reading_id: id, ...(work.figures ?? none) },
        }),
      );
    case "note":
      return answerOf(
        api.POST("/api/batteries/{tag}/charge/note", {
          params,
          body: { reading_id: id, amps: work.figures.amps ?? 0, volts: work.figures.volts ?? 0 },
        }),
      );
    case "off":
      return answerOf(
        api.POST("/api/batteries/{tag}/charge/off", {
          params,
          body: { reading_id: id, how: work.how, ...work.figures },
        }),
      );
    case "promise":
      return answerOf(
        api.PUT("/api/batteries/{tag}/promise", {
          params,
          body: {
            promised_at: work.promised_at,
            priority: work.priority,
            closed_is_right: work.closedIsRight ?? false,
          },
        }),
      );
    case "pin":
      return answerOf(
        api.PUT("/api/batteries/{tag}/pin", {
          params,
          body: { charger_id: work.charger_id, output: work.output },
        }),
      );
  }
}

/** Do one thing; sent again after an answer that never came it is the same write. */
export function useWork(after?: () => void) {
  const unanswered = useRef<{ said: string; id: string } | null>(null);
  const mutation = useMutation({
    mutationFn: async (work: Work) => {
      const key = JSON.stringify(work);
      const write = unanswered.current?.said === key ? unanswered.current : { said: key, id: newId() };
      unanswered.current = write;
      const answer = await send(work, write.id);
      unanswered.current = null;
      return answer;
    },
    onSuccess: async (answer, { tag }) => {
      await queries.cancelQueries({ queryKey: rack.queryKey });
      put(rack.queryKey, answer);
      void askAgain(["battery", tag], ["life", tag]);
      after?.();
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status < 500) unanswered.current = null;
      if (error instanceof ApiProblem && error.status === 409) void askAgain(rack.queryKey);
    },
  });
  const problem = mutation.error;
  const fault = (field: string) => (problem instanceof ApiProblem ? problem.of(field) : undefined);
  const said = problem
    ? problem instanceof ApiProblem
      ? (problem.errors.find((one) => !["amps", "volts", "promised_at"].includes(one.path))?.message ?? problem.message)
      : t("work.the_server_does_not_answer_try_again")
    : "";
  return { work: mutation.mutate, busy: mutation.isPending, said, fault, clear: mutation.reset };
}

/** One output of a charger. */
export interface Lane {
  charger_id: number;
  output: number;
}

/** A battery where it is due on a board. */
export interface Standing {
  tag: number;
  /** When it is due. */
  at: string;
  kind: "hangs" | "planned" | "stands";
  slot?: Slot;
  shown: Schema["ShelfBattery"] | undefined;
}
