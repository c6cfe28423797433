/** What screens ask of the server, by name. */
import { QueryClient, queryOptions } from "@tanstack/react-query";
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

/** A battery as the server answered it, put where every screen looks. */
export function learned(view: Schema["CheckView"]) {
  queries.setQueryData(battery(view.tag).queryKey, view);
  void queries.invalidateQueries({ queryKey: shelf.queryKey });
  for (const about of ["life", "match", "warranty"]) void queries.invalidateQueries({ queryKey: [about, view.tag] });
}

/** Follow what other screens do. Returns how to stop. */
export function follow(): () => void {
  const source = new EventSource("/api/events");
  source.onmessage = (event: MessageEvent<string>) => {
    const told = JSON.parse(event.data) as { what: string; tag?: number };
    void queries.invalidateQueries({ queryKey: shelf.queryKey });
    if (told.what === "rules")
      for (const about of ["rules", "reference"]) void queries.invalidateQueries({ queryKey: [about] });
    if (told.tag !== undefined) {
      for (const about of ["battery", "life", "match", "warranty"])
        void queries.invalidateQueries({ queryKey: [about, told.tag] });
      void queries.invalidateQueries({ queryKey: ["checks"] });
    } else void queries.invalidateQueries({ queryKey: ["battery"] });
  };
  return () => source.close();
}
