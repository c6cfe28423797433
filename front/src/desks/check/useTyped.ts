/** What a form says: told to the vane as it changes, and read from the form itself, at that moment, when it is left. */
import { useEffect, useLayoutEffect, useRef, type RefObject } from "react";
import type { FormProps, Typed } from "./fields";

export function useTyped<Value>(
  { onType, onStands, tool }: FormProps,
  drawn: Value,
  now: RefObject<Value>,
  readingOf: (value: Value) => Typed,
): Typed & { read: () => Typed } {
  const typed = readingOf(drawn);
  const latest = useRef(readingOf);
  useLayoutEffect(() => {
    latest.current = readingOf;
  });
  const read = () => latest.current(now.current);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- said once, for as long as the form stands
  useLayoutEffect(() => onStands(read), []);
  const key = JSON.stringify(typed);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is typed changes
  useEffect(() => onType(typed), [key, tool?.equipment_id]);
  return { ...typed, read };
}
