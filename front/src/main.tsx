import "@fontsource-variable/atkinson-hyperlegible-next";
import "./opening.css";
import { createRoot } from "react-dom/client";
import { tabsWithDrafts } from "./kit/drafts";
import { tabIsKnown } from "./kit/tab";
import { startLanguage } from "./language/catalogue";

// Where the browser allows it, the page opens without its server too.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () => void navigator.serviceWorker.register("/sw.js").catch(() => undefined));

/** The language comes first, so that the page speaks it from the beginning, and which tab this is, whose drafts it draws. */
async function start() {
  const root = document.getElementById("root");
  await Promise.all([startLanguage(), tabIsKnown(tabsWithDrafts)]);
  const { Whole } = await import("./Whole");
  if (root) createRoot(root).render(<Whole />);
}

void start();
