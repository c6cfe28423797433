import { useEffect, useRef } from "react";
import { rememberUse } from "./seen";

const SIGNS = ["pointerdown", "keydown", "wheel", "touchstart"] as const;

/** Calls back once nobody has touched the page for so many minutes. */
export function useIdle(minutes: number, onIdle: () => void) {
  const callback = useRef(onIdle);
  useEffect(() => {
    callback.current = onIdle;
  });
  useEffect(() => {
    let timer = 0;
    const again = () => {
      rememberUse();
      clearTimeout(timer);
      timer = window.setTimeout(() => callback.current(), minutes * 60_000);
    };
    again();
    for (const sign of SIGNS) window.addEventListener(sign, again, { passive: true });
    return () => {
      clearTimeout(timer);
      for (const sign of SIGNS) window.removeEventListener(sign, again);
    };
  }, [minutes]);
}
