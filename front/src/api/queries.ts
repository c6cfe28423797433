/** What screens ask of the server, by name. */
import { QueryClient, queryOptions, type QueryKey } from "@tanstack/react-query";
import { ApiProblem, api, asked, carryCsrfToken, type Schema } from "./client";

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (tries, error) => !(error instanceof ApiProblem) && tries < 2,
    },
  },
});

export const me = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    try {
      const found = await asked(api.GET("/api/me"));
      carryCsrfToken(found.csrf_token);
      return found;
    } catch (error) {
      if (error instanceof ApiProblem && error.status === 401) return null;
      throw error;
    }
  },
  staleTime: Infinity,
});

export const people = queryOptions({ queryKey: ["people"], queryFn: () => asked(api.GET("/api/people")) });

export const reference = queryOptions({
  queryKey: ["reference"],
  queryFn: () => asked(api.GET("/api/reference")),
  staleTime: Infinity,
});

export const rules = queryOptions({ queryKey: ["rules"], queryFn: () => asked(api.GET("/api/rules")) });

export const dateCodes = (code: string, soldOn: string | null) =>
  queryOptions({
    queryKey: ["date-codes", code, soldOn],
    queryFn: () =>
      asked(api.GET("/api/date-codes", { params: { query: { code, ...(soldOn ? { sold_on: soldOn } : {}) } } })),
    enabled: code.trim().length > 1,
    staleTime: Infinity,
  });

export const shelf = queryOptions({ queryKey: ["shelf"], queryFn: () => asked(api.GET("/api/shelf")) });

const path = (tag: number) => ({ params: { path: { tag } } });

export const battery = (tag: number) =>
  queryOptions({ queryKey: ["battery", tag], queryFn: () => asked(api.GET("/api/batteries/{tag}", path(tag))) });

export const life = (tag: number) =>
  queryOptions({ queryKey: ["life", tag], queryFn: () => asked(api.GET("/api/batteries/{tag}/life", path(tag))) });

export const matchFor = (tag: number) =>
  queryOptions({ queryKey: ["match", tag], queryFn: () => asked(api.GET("/api/batteries/{tag}/match", path(tag))) });

export const matchRequirement = (requirement: Schema["Requirement"]) =>
  queryOptions({
    queryKey: ["match", "typed", requirement],
    queryFn: () => asked(api.POST("/api/match", { body: { requirement } })),
  });

export const warrantyFor = (tag: number, replacementId: number | null) =>
  queryOptions({
    queryKey: ["warranty", tag, replacementId],
    queryFn: () =>
      asked(
        api.GET("/api/batteries/{tag}/warranty", {
          params: { path: { tag }, query: { replacement_id: replacementId } },
        }),
      ),
  });

export const checks = (text: string) =>
  queryOptions({
    queryKey: ["checks", text],
    queryFn: () => asked(api.GET("/api/checks", { params: { query: { text } } })),
    placeholderData: (before) => before,
  });

export const assessment = (check: Schema["CheckFile"]) =>
  queryOptions({
    queryKey: ["assess", check],
    queryFn: ({ signal }) => asked(api.POST("/api/assess", { body: check, signal })),
    staleTime: Infinity,
    gcTime: 5_000,
    retry: false,
    placeholderData: (before) => before,
  });

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

/** A battery as the server answered it, put where every screen looks. */
export async function learned(view: Schema["CheckView"]) {
  const { queryKey } = battery(view.tag);
  await queries.cancelQueries({ queryKey });
  queries.setQueryData(queryKey, view);
  const others = OF_A_BATTERY.filter((about) => about !== "battery").map((about) => [about, view.tag]);
  void askAgain(shelf.queryKey, ["checks"], ...others);
}

/** Follow what other screens do. Returns how to stop. */
export function follow(): () => void {
  const source = new EventSource("/api/events");
  const everything = () =>
    void askAgain(shelf.queryKey, ["checks"], rules.queryKey, reference.queryKey, ...OF_A_BATTERY.map((one) => [one]));
  let opened = false;
  source.onopen = () => {
    if (opened) everything(); // what was told while the line was cut is lost
    opened = true;
  };
  source.onmessage = (event: MessageEvent<string>) => {
    const told = JSON.parse(event.data) as { what: string; tag?: number };
    if (told.what === "rules") void askAgain(rules.queryKey, reference.queryKey, ["battery"]);
    else if (told.tag === undefined) everything();
    else void askAgain(shelf.queryKey, ["checks"], ...OF_A_BATTERY.map((about) => [about, told.tag]));
  };
  return () => source.close();
}
