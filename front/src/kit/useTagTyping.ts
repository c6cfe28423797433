import { useEffect, useState } from "react";

const FORGET_MS = 4000;

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName));

/** Digits typed outside any field are a tag; Enter goes there. Returns what is typed so far. */
export function useTagTyping(onTag: (tag: number) => void, onKey: (key: string) => boolean): string {
  const [typed, setTyped] = useState("");
  useEffect(() => {
    const forget = window.setTimeout(() => setTyped(""), FORGET_MS);
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      if (/^\d$/.test(event.key)) {
        setTyped((before) => (before + event.key).slice(0, 6));
        event.preventDefault();
      } else if (event.key === "Enter" && typed) {
        onTag(Number(typed));
        setTyped("");
        event.preventDefault();
        event.stopPropagation();
      } else if (event.key === "Escape" || event.key === "Backspace") setTyped("");
      else if (onKey(event.key)) event.preventDefault();
    };
    window.addEventListener("keydown", listen, { capture: true });
    return () => {
      clearTimeout(forget);
      window.removeEventListener("keydown", listen, { capture: true });
    };
  }, [typed, onTag, onKey]);
  return typed;
}
