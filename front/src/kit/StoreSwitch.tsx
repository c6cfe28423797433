/** For somebody who works in more than one store: which this is, and the way to another. */
import { useQuery } from "@tanstack/react-query";
import { Dialog, DialogTrigger } from "react-aria-components";
import { useState } from "react";
import { api, answerOf, type Schema } from "../api/client";
import { stores } from "../api/queries";
import { Person, Sheet } from "./topLine";
import { takeInHand } from "./inHand";
import { enter, lock } from "./locked";
import { t } from "../language/t";
import { Stack } from "./layout";

/** Go to work in another store: the page begins anew there, and nothing of this store stays in it. */
async function goTo(storeId: number) {
  await enter(async () => {
    await answerOf(api.POST("/api/stores/{store_id}/enter", { params: { path: { store_id: storeId } }, body: {} }));
    takeInHand(null);
    lock();
  });
  location.assign("/");
}

export function StoreSwitch({ who }: { who: Schema["Me"] }) {
  const { data } = useQuery(stores);
  const [fault, setFault] = useState("");
  const mine = data?.stores.filter(({ works }) => works) ?? [];
  if (mine.length < 2) return null;
  return (
    <DialogTrigger>
      <Person $notPhone aria-label={t("store_switch.in_go_to_another_store", { name: who.store.name })}>
        ⌂ ▾
      </Person>
      <Sheet placement="bottom end">
        <Dialog aria-label={t("screens.stores")}>
          <Stack $gap={6}>
            {mine.map((store) => (
              <Person
                key={store.id}
                data-current={store.here}
                isDisabled={store.here}
                onPress={() =>
                  void goTo(store.id).catch((error: unknown) =>
                    setFault(error instanceof Error ? error.message : t("store_switch.it_did_not_work_try_again")),
                  )
                }
              >
                {store.here
                  ? t("store_switch.here", { name: store.name })
                  : t("store_switch.work_in", { name: store.name })}
              </Person>
            ))}
            {fault && <p role="alert">{fault}</p>}
          </Stack>
        </Dialog>
      </Sheet>
    </DialogTrigger>
  );
}
