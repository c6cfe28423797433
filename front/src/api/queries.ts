/** What screens ask of the server, by name. */
import { QueryCache, QueryClient, infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { onCut } from "../kit/line";
import { isLocked, signOut } from "../kit/locked";
import { recall, remember } from "../kit/seen";
import { stands } from "./counts";
import { ApiProblem, api, answerOf, carryCsrfToken, type Schema } from "./client";

/** Nothing is wrong with what was asked: it is asked again. */
const isAway = (error: Error) => !(error instanceof ApiProblem) || [502, 503, 504].includes(error.status);

/** Nobody answered at all, or whoever did had no database: what was asked may be asked again. */
export const isUnanswered = (error: unknown) => error instanceof Error && isAway(error);

export const queries = new QueryClient({
  queryCache: new QueryCache({ onSuccess: (data, query) => stands(query.queryHash, data) }),
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (tries, error) => isAway(error) && tries < 2,
      retryDelay: 1000,
      networkMode: "always", // whether there is a line is found out by asking
    },
    mutations: { networkMode: "always" },
  },
});

remember(queries);
onCut(() => void recall(queries));

export const me = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    if (isLocked()) {
      await signOut(); // locked while the line was down: the session ends now
      return null;
    }
    try {
      const session = await answerOf(api.GET("/api/me"));
      carryCsrfToken(session.csrf_token);
      return session;
    } catch (error) {
      if (error instanceof ApiProblem && error.status === 401) return null;
      const lastSession = isAway(error as Error) ? await recall<Schema["Me"]>(queries) : null;
      if (!lastSession) throw error;
      carryCsrfToken(lastSession.csrf_token); // whoever was signed in here goes on; the server is asked when it is back
      return lastSession;
    }
  },
  staleTime: Infinity,
});

/** The secret address of the shop's calendar; only a lead may see it. */
export const calendar = queryOptions({ queryKey: ["calendar"], queryFn: () => answerOf(api.GET("/api/calendar")) });

const DOOR = "vane-check-door";

/** This device belongs to the store somebody signed in at: the next sign-in page is that store's. */
export const belongsTo = (door: string) => localStorage.setItem(DOOR, door);

/** The sign-in page of this store; where several share a server, the store's own address carries its door. */
export const people = queryOptions({
  queryKey: ["people"],
  queryFn: () => {
    const given = new URLSearchParams(location.search).get("door");
    if (given) localStorage.setItem(DOOR, given);
    return answerOf(api.GET("/api/people", { params: { query: { door: given ?? localStorage.getItem(DOOR) ?? "" } } }));
  },
});

export const reference = queryOptions({
  queryKey: ["reference"],
  queryFn: () => answerOf(api.GET("/api/reference")),
  staleTime: Infinity,
});

/** The stores of the house, and what is on its way between this one and others. */
export const stores = queryOptions({ queryKey: ["stores"], queryFn: () => answerOf(api.GET("/api/stores")) });

/** Every store side by side; only an owner may see it. */
export const sideBySide = queryOptions({
  queryKey: ["house", "stores"],
  queryFn: () => answerOf(api.GET("/api/house/stores")),
});

/** In which stores somebody works; only an owner may see it. */
export const storesOf = (staffId: number) =>
  queryOptions({
    queryKey: ["house", "stores", staffId],
    queryFn: () =>
      answerOf(api.GET("/api/house/people/{staff_id}/stores", { params: { path: { staff_id: staffId } } })),
  });

/** The shop, its people, what is missing; only a lead may see it. */
export const house = queryOptions({ queryKey: ["house"], queryFn: () => answerOf(api.GET("/api/house")) });

/** What was changed of the house, page by page. */
export const houseChanges = infiniteQueryOptions({
  queryKey: ["house", "changes"],
  queryFn: ({ pageParam }) =>
    answerOf(api.GET("/api/house/changes", { params: { query: pageParam === null ? {} : { before: pageParam } } })),
  initialPageParam: null as number | null,
  getNextPageParam: (last) => (last.length === 50 ? (last.at(-1)?.id ?? null) : null),
});

/** What setting up a shop asks, where there is none. */
export const setUp = queryOptions({
  queryKey: ["set-up"],
  queryFn: () => answerOf(api.GET("/api/set-up")),
  staleTime: Infinity,
});

export const rules = queryOptions({ queryKey: ["rules"], queryFn: () => answerOf(api.GET("/api/rules")) });

/** Cars of a long list, by what is typed. */
export const vehicles = (text: string, isLong: boolean) =>
  queryOptions({
    queryKey: ["vehicles", text],
    queryFn: () => answerOf(api.GET("/api/vehicles", { params: { query: { text } } })),
    enabled: isLong && text.trim().length > 1,
    placeholderData: (before) => before,
  });

export const dateCodes = (code: string, soldOn: string | null) =>
  queryOptions({
    queryKey: ["date-codes", code, soldOn],
    queryFn: () =>
      answerOf(api.GET("/api/date-codes", { params: { query: { code, ...(soldOn ? { sold_on: soldOn } : {}) } } })),
    enabled: code.trim().length > 1,
    staleTime: Infinity,
  });

/** The charge rack as it stands and is planned. */
export const rack = queryOptions({
  queryKey: ["rack"],
  queryFn: () => answerOf(api.GET("/api/rack")),
  refetchInterval: 60_000, // what is due comes nearer by itself
});

/** The book of equipment. */
export const equipment = queryOptions({ queryKey: ["equipment"], queryFn: () => answerOf(api.GET("/api/equipment")) });

export const toolOf = (id: number) =>
  queryOptions({
    queryKey: ["equipment", id],
    queryFn: () => answerOf(api.GET("/api/equipment/{equipment_id}", { params: { path: { equipment_id: id } } })),
  });

/** When a battery that is being taken in can be ready. */
export const earliest = (body: Schema["AskEarliest"], enabled: boolean) =>
  queryOptions({
    queryKey: ["earliest", body],
    queryFn: () => answerOf(api.POST("/api/rack/earliest", { body })),
    enabled,
    retry: false,
    placeholderData: (before) => before,
  });

export const shelf = queryOptions({
  queryKey: ["shelf"],
  queryFn: () => answerOf(api.GET("/api/shelf")),
  staleTime: Infinity, // what changes on it is told
});

const path = (tag: number) => ({ params: { path: { tag } } });

export const battery = (tag: number) =>
  queryOptions({ queryKey: ["battery", tag], queryFn: () => answerOf(api.GET("/api/batteries/{tag}", path(tag))) });

export const life = (tag: number) =>
  queryOptions({ queryKey: ["life", tag], queryFn: () => answerOf(api.GET("/api/batteries/{tag}/life", path(tag))) });

export const matchFor = (tag: number) =>
  queryOptions({ queryKey: ["match", tag], queryFn: () => answerOf(api.GET("/api/batteries/{tag}/match", path(tag))) });

/** What fits what is known, asked as one thing. */
export const matchKnown = (ask: Schema["AskMatch"]) =>
  queryOptions({
    queryKey: ["match", "known", ask],
    queryFn: () => answerOf(api.POST("/api/match", { body: ask })),
    retry: false,
    placeholderData: (before) => before,
  });

/** Why the others do not fit, counted when somebody asks. */
export const matchOthers = (ask: Schema["AskMatch"]) =>
  queryOptions({
    queryKey: ["match", "others", ask],
    queryFn: () => answerOf(api.POST("/api/match/others", { body: ask })),
  });

export const codeRead = (text: string) =>
  queryOptions({
    queryKey: ["code", text],
    queryFn: () => answerOf(api.GET("/api/codes", { params: { query: { text } } })),
    enabled: text.trim().length > 1,
    staleTime: Infinity,
    retry: false,
  });

/** A page of the catalogue. */
export const catalogue = (text: string, inStock: boolean, page: number) =>
  queryOptions({
    queryKey: ["goods", "list", text, inStock, page],
    queryFn: () => answerOf(api.GET("/api/goods", { params: { query: { text, in_stock: inStock, page } } })),
    placeholderData: (before) => before,
  });

export const itemOf = (id: number) =>
  queryOptions({
    queryKey: ["goods", "item", id],
    queryFn: () => answerOf(api.GET("/api/goods/{item_id}", { params: { path: { item_id: id } } })),
  });

/** Pieces that want a hand. */
export const dueGoods = queryOptions({
  queryKey: ["goods", "due"],
  queryFn: () => answerOf(api.GET("/api/goods/due")),
});

export const suppliers = queryOptions({
  queryKey: ["goods", "suppliers"],
  queryFn: () => answerOf(api.GET("/api/suppliers")),
});

export const orders = queryOptions({ queryKey: ["goods", "orders"], queryFn: () => answerOf(api.GET("/api/orders")) });

export const sales = queryOptions({ queryKey: ["goods", "sales"], queryFn: () => answerOf(api.GET("/api/sales")) });

export const sale = (tag: number) =>
  queryOptions({ queryKey: ["sale", tag], queryFn: () => answerOf(api.GET("/api/batteries/{tag}/sale", path(tag))) });

export const imports = queryOptions({ queryKey: ["imports"], queryFn: () => answerOf(api.GET("/api/imports")) });

const IMPORT_LOOK_MS = 1000;
const AT_WORK = new Set(["checking", "keeping"]);

/** A file being brought in; looked at again each second while it is worked at. */
export const importOf = (id: number, page: number) =>
  queryOptions({
    queryKey: ["imports", id, page],
    queryFn: () => answerOf(api.GET("/api/imports/{run_id}", { params: { path: { run_id: id }, query: { page } } })),
    refetchInterval: ({ state }) => (state.data && AT_WORK.has(state.data.state) ? IMPORT_LOOK_MS : false),
    placeholderData: (before) => before,
  });

export const warrantyFor = (tag: number, replacementId: number | null, priceCents: number | null = null) =>
  queryOptions({
    queryKey: ["warranty", tag, replacementId, priceCents],
    queryFn: () =>
      answerOf(
        api.GET("/api/batteries/{tag}/warranty", {
          params: { path: { tag }, query: { replacement_id: replacementId, price_cents: priceCents } },
        }),
      ),
  });

export const checks = (text: string, page: number) =>
  queryOptions({
    queryKey: ["checks", text, page],
    queryFn: () => answerOf(api.GET("/api/checks", { params: { query: { text, page } } })),
    placeholderData: (before) => before,
  });

/** The second opinion on a check, and what waiting would add. */
export const lookAhead = (check: Schema["CheckFile"]) =>
  queryOptions({
    queryKey: ["odds", check],
    queryFn: ({ signal }) => answerOf(api.POST("/api/assess/odds", { body: check, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
    placeholderData: (before) => before,
  });

export const assessment = (check: Schema["CheckFile"]) =>
  queryOptions({
    queryKey: ["assess", check],
    queryFn: ({ signal }) => answerOf(api.POST("/api/assess", { body: check, signal })),
    staleTime: Infinity,
    gcTime: 5_000,
    retry: false,
    placeholderData: (before) => before,
  });
