/// <reference lib="webworker" />
/** The page without its server: what was built is kept on the device and answers when the server does not. Data is not kept here. */
import { clientsClaim } from "workbox-core";
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (string | { url: string; revision: string | null })[] };

/** A server that does not answer the page within this is away. */
const PATIENCE_MS = 2500;
const PAGE = "/index.html";

void self.skipWaiting();
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST, { directoryIndex: "", cleanURLs: false });

/** The server's page while it answers, so that a new release is there at once; else the one that is kept. */
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
        if (answer.status < 500) return answer;
      } catch {
        // away
      }
      return (await matchPrecache(PAGE)) ?? Response.error();
    },
    { denylist: [/^\/api\//] },
  ),
);

/** A lock that the server does not know of yet: nothing is shown to whoever types an address of its data. As `kit/locked.ts` keeps it. */
const OWED = "vane-check-owed";
const DOOR = "vane-check-door";
registerRoute(
  ({ request, url }) => request.mode === "navigate" && url.pathname.startsWith("/api/"),
  async ({ request }) => {
    const isSettled = await navigator.locks.request(DOOR, async () => {
      if ((await caches.match("/owed", { cacheName: OWED })) === undefined) return true;
      const answer = await fetch("/api/sign-out", { method: "POST" });
      return answer.ok && (await caches.delete(OWED));
    });
    return isSettled ? fetch(request) : Response.error();
  },
);
