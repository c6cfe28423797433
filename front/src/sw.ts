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
