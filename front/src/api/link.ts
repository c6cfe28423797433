/** Addresses of the API that a link opens, typed by the schema: a path that is not there, or lacks a part, does not compile. */
import type { paths } from "./schema";

type PartsOf<Path> = Path extends `${string}{${infer Part}}${infer Rest}` ? Part | PartsOf<Rest> : never;
type WithGet = { [P in keyof paths]: paths[P] extends { get: { responses: unknown } } ? P : never }[keyof paths];

export function linkTo<Path extends WithGet & string>(
  path: Path,
  ...[parts]: [PartsOf<Path>] extends [never] ? [] : [Record<PartsOf<Path>, string | number>]
): string {
  const known = (parts ?? {}) as Record<string, string | number>;
  return path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String(known[name])));
}
