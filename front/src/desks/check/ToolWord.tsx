/** The tool a reading is made with, as a word of its sentence: the one last used, and whether its check is overdue. */
import { useEffect, useRef } from "react";
import { Word, WordChoices } from "../../kit/Spoken";
import { dayOf } from "../../kit/words";
import type { FormProps, Values } from "./fields";
import { t } from "../../language/t";

const NAME = "_tool";

export function ToolWord({ tool, tools = [] }: FormProps) {
  const overdue = tool?.overdue_since ?? null;
  if (!tool || (tools.length < 2 && overdue === null)) return null; // the only one there is goes without saying
  const says = overdue
    ? t("tool_word.due_for_its_check_since", { name: tool.name, overdue: dayOf(overdue) })
    : tool.name;
  return (
    <>
      {t("tool_word.with")} <Word name={NAME} label={t("tool_word.read_with")} says={says} odd={overdue !== null} />
    </>
  );
}

export function ToolChoices({ tool, tools = [], onTool }: FormProps) {
  if (!tool || tools.length === 0) return null;
  return (
    <WordChoices
      name={NAME}
      label={t("tool_word.read_with")}
      value={String(tool.equipment_id)}
      words={Object.fromEntries(tools.map((one) => [String(one.equipment_id), one.name]))}
      onChange={(id) => onTool?.(Number(id))}
    />
  );
}

/** Another tool starts with figures of its own: those that nobody changed follow it. */
export function useToolStarts(
  props: FormProps,
  starts: () => Record<string, string>,
  set: (change: (before: Values) => Values) => void,
) {
  const id = props.tool?.equipment_id;
  const before = useRef<{ id: number | undefined; starts: Record<string, string> } | null>(null);
  useEffect(() => {
    const now = starts();
    const was = before.current;
    before.current = { id, starts: now };
    if (!was || was.id === id || props.start) return;
    set((values) => {
      const own = Object.entries(now).filter(([name]) => values[name] === was.starts[name]);
      return { ...values, ...Object.fromEntries(own) };
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only another tool brings other figures
  }, [id]);
}
