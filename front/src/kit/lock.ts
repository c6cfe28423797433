/** The lock of the page. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";
import { me, people } from "../api/queries";
import { takeInHand } from "./inHand";
import { lock, PLACE, signOut } from "./locked";
import { expectField, noField } from "./typeAhead";

/** Lock this screen: nothing of the person or of any customer stays in the page or in what it remembers. */
export function useLock(): () => void {
  const client = useQueryClient();
  return useCallback(() => {
    noField();
    expectField(); // the next PIN may be begun before its field is drawn
    lock();
    takeInHand(null);
    forget(client);
    void signOut();
  }, [client]);
}

function forget(client: ReturnType<typeof useQueryClient>) {
  client.setQueryData(me.queryKey, null);
  void client.cancelQueries({ predicate: (query) => query.queryKey[0] !== "people" });
  client.removeQueries({ predicate: (query) => !["me", people.queryKey[0]].includes(query.queryKey[0] as string) });
}

/** Follow a lock or a sign-in in another tab. */
export function useOtherTabs() {
  const client = useQueryClient();
  useEffect(() => {
    const hear = (event: StorageEvent) => {
      if (event.key !== PLACE) return;
      if (event.newValue !== null) forget(client);
      else void client.invalidateQueries({ queryKey: me.queryKey });
    };
    window.addEventListener("storage", hear);
    return () => window.removeEventListener("storage", hear);
  }, [client]);
}
