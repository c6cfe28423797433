/** The server's time. A screen's own clock may be wrong: how far is measured on every answer and taken off. */
const PLACE = "vane-check-clock";
/** A better measure is kept for so long before a worse one may take its place. */
const GOOD_FOR_MS = 60_000;

let anchor: { server: number; at: number; trip: number } | null = null;

/** Learn from an answer: what the server's clock said, and when it was asked and answered on this screen's stop watch. */
export function measureClock(serverMs: number, askedAt: number, answeredAt: number) {
  const trip = answeredAt - askedAt;
  if (anchor && trip > anchor.trip && answeredAt - anchor.at < GOOD_FOR_MS) return;
  anchor = { server: serverMs + trip / 2, at: answeredAt, trip };
  localStorage.setItem(PLACE, String(Math.round(anchor.server - Date.now())));
}

/** This moment by the server's clock, in milliseconds; by the last known difference while it was never asked. */
export const nowMs = () =>
  anchor ? anchor.server + performance.now() - anchor.at : Date.now() + Number(localStorage.getItem(PLACE) ?? 0);

export const nowIso = () => new Date(nowMs()).toISOString();

/** A name for a reading or a write that no other has. Pages that are not served securely lack the browser's own. */
export function newId(): string {
  if ("randomUUID" in crypto) return crypto.randomUUID();
  const bytes = (crypto as Crypto).getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}
