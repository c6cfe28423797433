/** The API as generated from its schema, with the write token on every write and problems as one kind of error. */
import createClient, { type Middleware } from "openapi-fetch";
import { measureClock } from "../kit/clock";
import { AWAY, lineDown, lineUp, noRoom } from "../kit/line";
import { speak, spoken, type Fact } from "../language/speak";
import { withCount } from "./counts";
import type { components, paths } from "./schema";
import { t } from "../language/t";

export type Schema = components["schemas"];
/** Any kind of reading, as the schema lists them. */
export type Reading = Schema["KeptReading"]["reading"];

/** An answer that is not what was asked for: what is wrong, and in which field. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    /** By field, in the language of the page; `key` is the message's. */
    readonly errors: (Schema["FieldError"] & { key?: string | undefined })[] = [],
    readonly waitSeconds: number | null = null,
    /** What somebody else wrote meanwhile, where two wrote the same. */
    readonly theirs: Schema["Theirs"] | null = null,
  ) {
    super(message);
  }
  /** The fault of one field, if it has one. */
  of(path: string): string | undefined {
    return this.errors.find((fault) => fault.path === path)?.message;
  }
}

let csrfToken = "";
export const carryCsrfToken = (token: string) => {
  csrfToken = token;
};

const askedAt = new Map<string, number>();

const carryToken: Middleware = {
  onRequest({ request, id }) {
    if (request.method !== "GET") request.headers.set("X-Vane-CSRF", csrfToken);
    askedAt.set(id, performance.now());
    return request;
  },
  async onResponse({ response, id }) {
    const server = Number(response.headers.get("x-vane-time"));
    const began = askedAt.get(id);
    askedAt.delete(id);
    if (server && began !== undefined) measureClock(server, began, performance.now());
    if (response.status < 502 || response.status > 504) lineUp();
    else lineDown((await detailOf(response)) ?? AWAY);
    if (response.status === NO_ROOM) noRoom((await detailOf(response)) ?? AWAY);
    return response;
  },
  onError({ error, id }) {
    askedAt.delete(id);
    if (!(error instanceof DOMException && error.name === "AbortError")) lineDown(AWAY);
  },
};

const NO_ROOM = 507;

async function detailOf(response: Response): Promise<string | null> {
  const problem = (await response
    .clone()
    .json()
    .catch(() => null)) as { detail?: Fact | string } | null;
  if (!problem?.detail) return null;
  return typeof problem.detail === "string" ? problem.detail : speak(problem.detail);
}

export const api = createClient<paths>({ baseUrl: "/" });
api.use(carryToken);

/** The name of a write, so that sent twice it is done once. */
export const writeHeader = (writeId: string) => ({ header: { "Idempotency-Key": writeId } });

type Answer<Data> = { data?: Data; error?: unknown; response: Response };

/** The data of an answer. Throws ApiProblem for a refusal, and whatever fetch throws when the server is gone. */
export async function answerOf<Data>(answer: Promise<Answer<Data>>): Promise<Data> {
  const { data, error, response } = await answer.catch((fault: unknown) => {
    if (fault instanceof DOMException && fault.name === "AbortError") throw fault;
    throw new Error(AWAY);
  });
  if (response.ok) return withCount(spoken(data as Data), response);
  const sent = (error ?? {}) as { errors?: { path: string; message: Fact }[] };
  const faults = (sent.errors ?? []).map(({ path, message }) => ({
    path,
    message: spoken(message) as unknown as string,
    key: message.key,
  }));
  const problem = spoken(sent as unknown as Partial<Schema["Problem"]>);
  throw new ApiProblem(
    response.status,
    problem.detail ? problem.detail : t("client.the_server_answered", { status: response.status }),
    faults,
    problem.wait_seconds ?? null,
    problem.theirs ?? null,
  );
}
