import { useEffect, useState } from "react";
import type { Light } from "./theme";

const LIGHT = "vane-check-light";

/** Paper or bench light, as this screen was left. */
export function useLight(): [Light, () => void] {
  const [light, setLight] = useState<Light>(() => (localStorage.getItem(LIGHT) === "bench" ? "bench" : "paper"));
  useEffect(() => {
    document.documentElement.dataset["theme"] = light;
  }, [light]);
  return [
    light,
    () => {
      const next: Light = light === "paper" ? "bench" : "paper";
      localStorage.setItem(LIGHT, next);
      setLight(next);
    },
  ];
}
