import { useLayoutEffect, useRef } from "react";

const places = new Map<string, number>();

/** Where a list was left, given back when one comes to it again. `there` says that it has its rows. */
export function useScrollKept(name: string, there: boolean) {
  const box = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element || !there) return;
    element.scrollTop = places.get(name) ?? 0;
    const keep = () => places.set(name, element.scrollTop);
    element.addEventListener("scroll", keep, { passive: true });
    return () => element.removeEventListener("scroll", keep);
  }, [name, there]);
  return box;
}
