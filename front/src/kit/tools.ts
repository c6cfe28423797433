/** Which of the house's tools this screen's bench reads with: the one last used here, else one that is not overdue. */
import { useSyncExternalStore } from "react";
import type { Reading, Schema } from "../api/client";
import { METHODS, type Method } from "../api/methods";

export type Tool = Schema["ToolLimits"];

const PLACE = "vane-check-tools";
const listeners = new Set<() => void>();
let picked = JSON.parse(localStorage.getItem(PLACE) ?? "{}") as Record<string, number>;

/** What a tool is, as methods name what they are read with. */
const nameOf = (tool: Tool["tool"]): string =>
  tool.kind === "load" ? (tool.adjustable ? "adjustable_load" : "fixed_load") : tool.kind;

/** The tools of the house that may be picked for a kind of reading. */
export const toolsFor = (kind: Method, tools: Tool[]): Tool[] =>
  tools.filter(({ tool }) => nameOf(tool) === METHODS[kind].readWith);

/** The one a reading is made with: its own where it is corrected, else the one last used here, else the best of them. */
export function toolOf(kind: Method, tools: Tool[], start: Reading | null): Tool | undefined {
  const may = toolsFor(kind, tools);
  const own = start?.tool?.equipment_id ?? (start ? undefined : picked[kind]);
  if (start && own === undefined) return undefined; // it was read with none of the book
  return may.find((one) => one.equipment_id === own) ?? may.find((one) => !one.overdue_since) ?? may[0];
}

export function pickTool(kind: string, equipmentId: number) {
  picked = { ...picked, [kind]: equipmentId };
  localStorage.setItem(PLACE, JSON.stringify(picked));
  for (const tell of listeners) tell();
}

/** Draws anew when another tool is picked. */
export const usePicked = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => picked,
  );

/** What a reading says of its tool. */
export const toolUsed = (tool: Tool | undefined): { tool?: Schema["ToolUsed"] } =>
  tool
    ? {
        tool: {
          equipment_id: tool.equipment_id,
          name: tool.name,
          tool: tool.tool,
          overdue_since: tool.overdue_since,
        } as Schema["ToolUsed"],
      }
    : {};

/** The battery's limits as that tool makes them. */
export function limitsWith(limits: Schema["Limits"], tool: Tool | undefined): Schema["Limits"] {
  if (!tool) return limits;
  return {
    ...limits,
    ...(tool.load ? { load: tool.load } : {}),
    ...(tool.fixed ? { fixed: tool.fixed } : {}),
    ...(tool.wait_minutes === null ? {} : { load_wait_minutes: tool.wait_minutes }),
  };
}
