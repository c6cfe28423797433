/** One write: named so that sent twice it is done once; a refused one gets another name, an unanswered one keeps it. */
import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { ApiProblem, writeHeader } from "../../api/client";
import { askAgain } from "../../api/live";
import { newId } from "../../kit/clock";

export type Name = ReturnType<typeof writeHeader>;

export function useWrite<Said, Answer>(
  write: (said: Said, name: Name) => Promise<Answer>,
  onDone?: (answer: Answer) => void,
) {
  const id = useRef(newId());
  const mutation = useMutation({
    mutationFn: (said: Said) => write(said, writeHeader(id.current)),
    onSuccess: (answer) => {
      id.current = newId();
      void askAgain(["goods"], ["match"], ["sale"]);
      onDone?.(answer);
    },
    onError: (error) => {
      if (!(error instanceof ApiProblem) || error.status >= 500) return;
      id.current = newId();
      if (error.status === 409) void askAgain(["goods"], ["sale"]);
    },
  });
  const problem = mutation.error instanceof ApiProblem ? mutation.error : null;
  return {
    write: mutation.mutate,
    pending: mutation.isPending,
    done: mutation.isSuccess,
    /** The fault of a field. */
    of: (path: string) => problem?.of(path),
    /** What is wrong beside the fields named here. */
    beside: (...paths: string[]) =>
      mutation.error && !problem?.errors.length
        ? mutation.error.message
        : problem?.errors.find((one) => !paths.includes(one.path))?.message,
  };
}
