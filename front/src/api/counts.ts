/**
 * How new an answer is. The server counts changes, and every answer says which count it knows of all changes before;
 * what is announced carries its own. So nothing is missed between an answer and what is heard, and nothing older is put
 * over what is newer.
 */
const ofAnswer = new WeakMap<object, number>();
const ofQuery = new Map<string, number>();

/** Note the count of an answer; one that says nothing of the store's work carries none, and is never out of date by it. */
export function withCount<Data>(data: Data, response: Response): Data {
  const count = response.headers.get("x-vane-count");
  if (typeof data === "object" && data !== null) ofAnswer.set(data, count === null ? Infinity : Number(count));
  return data;
}

/** The count of an answer; of one that came page by page, its oldest page's; 0 where nobody knows. */
export function countOfAnswer(data: unknown): number {
  if (typeof data !== "object" || data === null) return Infinity;
  const pages = (data as { pages?: unknown[] }).pages;
  return ofAnswer.get(data) ?? (pages ? Math.min(...pages.map(countOfAnswer)) : 0);
}

/** The highest count that anything was answered at. */
let highest = 0;

/** What stands under a name was answered at this count. */
export function stands(queryHash: string, data: unknown) {
  const count = countOfAnswer(data);
  ofQuery.set(queryHash, count);
  if (count !== Infinity) highest = Math.max(highest, count);
}

/** The server is at this count now. Says whether that is lower than before: it counts anew, and no count of before means anything. */
export function countsFrom(count: number): boolean {
  if (count >= highest) return false;
  ofQuery.clear();
  highest = count;
  return true;
}

/** Whether what stands under a name was answered knowing of this change; of what carries no count nobody can say so. */
export const knowsOf = (queryHash: string, count: number) => {
  const known = countOf(queryHash);
  return known > count && known !== Infinity;
};

/** The count of what stands under a name; 0 for what the device remembered. */
export const countOf = (queryHash: string) => ofQuery.get(queryHash) ?? 0;
