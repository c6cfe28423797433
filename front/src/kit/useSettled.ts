import { useEffect, useState } from "react";

/** A value as it was before it last changed, until it stands still for so long. */
export function useSettled<Value>(value: Value, pause: number): Value {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
