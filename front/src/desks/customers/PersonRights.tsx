/** What a customer may ask for: all that is kept of them, and to be forgotten. */
import { useState } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { Button, Soft } from "../../kit/parts";
import { Acts, Fault } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";

interface Props {
  view: Schema["CustomerView"];
  onForgotten: (view: Schema["CustomerView"]) => void;
}

export function PersonRights({ view, onForgotten }: Props) {
  const [sure, setSure] = useState(false);
  const path = { customer_id: view.id };
  const handOut = useWrite(
    (_: null, named) =>
      answerOf(api.POST("/api/customers/{customer_id}/hand-out", { params: { ...named, path }, body: {} })),
    (all) => save(all, `customer-${view.id}.json`),
  );
  const forget = useWrite(
    (_: null, named) =>
      answerOf(api.POST("/api/customers/{customer_id}/forget", { params: { ...named, path }, body: {} })),
    onForgotten,
  );
  const fault = handOut.beside() ?? forget.beside();
  return (
    <Stack $gap={8}>
      {sure ? (
        <>
          <p>
            {t("person_rights.name_phone_and_plate_go_from_and_from", {
              t:
                view.would_forget === 1
                  ? t("person_rights.one_entry")
                  : t("person_rights.entries", { would_forget: view.would_forget }),
            })}
          </p>
          <Acts>
            <Button $tone="copper" isDisabled={forget.pending} onPress={() => forget.write(null)}>
              {t("person_rights.forget_for_good")}
            </Button>
            <Button onPress={() => setSure(false)}>{t("screens.leave_it")}</Button>
          </Acts>
        </>
      ) : (
        <Acts>
          <Button isDisabled={handOut.pending} onPress={() => handOut.write(null)}>
            {t("person_rights.hand_out_all_we_keep")}
          </Button>
          <Button onPress={() => setSure(true)}>{t("person_rights.forget_them")}</Button>
        </Acts>
      )}
      {handOut.done && <Soft role="status">{t("person_rights.saved_as_a_file_that_it_was_handed_out_is")}</Soft>}
      {fault && <Fault role="alert">{fault}</Fault>}
    </Stack>
  );
}

/** Save an answer as a file on this device. */
function save(what: unknown, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([JSON.stringify(what, null, 1)], { type: "application/json" }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
