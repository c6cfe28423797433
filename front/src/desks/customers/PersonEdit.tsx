/** Name, phone and plate of a customer, written anew. */
import { useState } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { EntryForm, Typed } from "../../kit/EntryForm";
import { Button } from "../../kit/parts";
import { Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { t } from "../../language/t";

interface Props {
  view: Schema["CustomerView"];
  onDone: (view: Schema["CustomerView"]) => void;
  onLeave: () => void;
}

export function PersonEdit({ view, onDone, onLeave }: Props) {
  const [name, setName] = useState(view.own.name);
  const [phone, setPhone] = useState(view.own.phone);
  const [plate, setPlate] = useState(view.own.plate);
  const [basedOn, setBasedOn] = useState(view.edition);
  const write = useWrite(
    (_: null, named) =>
      answerOf(
        api.PUT("/api/customers/{customer_id}", {
          params: { ...named, path: { customer_id: view.id } },
          body: { name, phone, plate, based_on: basedOn },
        }),
      ),
    onDone,
  );
  return (
    <EntryForm
      label={t("person_edit.correct_the_customer")}
      write={write}
      onSend={() => write.write(null)}
      keep={t("screens.keep_it_so")}
      onLeave={onLeave}
    >
      <Figures>
        <Typed path="name" label={t("screens.name")} value={name} onChange={setName} numeric={false} autoFocus />
        <Typed path="phone" label={t("screens.phone")} value={phone} onChange={setPhone} numeric={false} />
        <Typed path="plate" label={t("screens.plate")} value={plate} onChange={setPlate} numeric={false} />
      </Figures>
      {view.edition !== basedOn && (
        <p>
          {t("person_edit.it_stands_now", {
            person: [view.own.name, view.own.phone, view.own.plate].filter(Boolean).join(", "),
          })}{" "}
          <Button onPress={() => setBasedOn(view.edition)}>{t("person_edit.mine_is_right")}</Button>
        </p>
      )}
    </EntryForm>
  );
}
