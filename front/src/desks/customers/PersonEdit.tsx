/** Name, phone and plate of a customer, written anew. */
import { useState } from "react";
import { Form } from "react-aria-components";
import { api, asked, type Schema } from "../../api/client";
import { Button, Entry } from "../../kit/parts";
import { Acts, Fault, Figures } from "../goods/parts";
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
      asked(
        api.PUT("/api/customers/{customer_id}", {
          params: { ...named, path: { customer_id: view.id } },
          body: { name, phone, plate, based_on: basedOn },
        }),
      ),
    onDone,
  );
  const fault = write.beside("name", "phone", "plate");
  return (
    <Form
      aria-label={t("Correct the customer")}
      style={{ display: "grid", gap: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        write.write(null);
      }}
    >
      <Figures>
        <Entry
          label={t("Name")}
          value={name}
          onChange={setName}
          numeric={false}
          name="name"
          autoFocus
          problem={write.of("name")}
        />
        <Entry
          label={t("Phone")}
          value={phone}
          onChange={setPhone}
          numeric={false}
          name="phone"
          problem={write.of("phone")}
        />
        <Entry
          label={t("Plate")}
          value={plate}
          onChange={setPlate}
          numeric={false}
          name="plate"
          problem={write.of("plate")}
        />
      </Figures>
      {fault && <Fault role="alert">{fault}</Fault>}
      {view.edition !== basedOn && (
        <p>
          {t("It stands now: {0}.", [view.own.name, view.own.phone, view.own.plate].filter(Boolean).join(", "))}{" "}
          <Button onPress={() => setBasedOn(view.edition)}>{t("Mine is right")}</Button>
        </p>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.pending}>
          {t("Keep it so")}
        </Button>
        <Button onPress={onLeave}>{t("Leave it")}</Button>
      </Acts>
    </Form>
  );
}
