/** Who is signed in, with the store and its money, for whatever stands deep in a desk. */
import { createContext, useContext } from "react";
import type { Schema } from "../api/client";

export const Who = createContext<Schema["Me"] | null>(null);

/** Only inside the signed-in desks. */
export function useWho(): Schema["Me"] {
  const who = useContext(Who);
  if (!who) throw new TypeError("who");
  return who;
}
