import "@fontsource-variable/atkinson-hyperlegible-next";
import "./opening.css";
import { createRoot } from "react-dom/client";
import { startLanguage } from "./language/catalogue";

// Where the browser allows it, the page opens without its server too.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () => void navigator.serviceWorker.register("/sw.js").catch(() => undefined));

/** The language comes first: what the page says is said in it from the beginning. */
async function start() {
  const root = document.getElementById("root");
  await startLanguage();
  const { Whole } = await import("./Whole");
  if (root) createRoot(root).render(<Whole />);
}

void start();
