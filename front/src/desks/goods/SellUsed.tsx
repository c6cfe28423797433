/** A piece that came back used is sold as what it is: its volts now, its price, for whom. */
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, answerOf, type Schema } from "../../api/client";
import { EntryForm, Typed } from "../../kit/EntryForm";
import { centsOf } from "../../kit/money";
import { voltsFault, voltsOf } from "../../kit/units";
import { t } from "../../language/t";
import { Figures } from "./parts";
import { useWrite } from "./useWrite";

interface Props {
  piece: Schema["PieceView"];
  currency: string;
  onLeave: () => void;
}

export function SellUsed({ piece, currency, onLeave }: Props) {
  const navigate = useNavigate();
  const [volts, setVolts] = useState("");
  const [price, setPrice] = useState("");
  const [name, setName] = useState("");
  const write = useWrite(
    (body: Schema["Sell"], named) => answerOf(api.POST("/api/sales", { params: named, body })),
    (sale) => void navigate(`/fitting/${sale.tag}`),
  );
  const cents = centsOf(price, currency);
  return (
    <EntryForm
      label={t("sell_used.sell_it_used")}
      write={write}
      ready={voltsOf(volts) !== null && cents !== null}
      onSend={() =>
        write.write({
          item_id: piece.item_id,
          piece_id: piece.id,
          volts: voltsOf(volts) ?? 0,
          serial: piece.serial,
          serial_is_right: true,
          price_cents: cents,
          old_tag: null,
          vehicle_id: null,
          use: "private",
          stop_start_car: false,
          customer_name: name,
          customer_phone: "",
          customer_plate: "",
          fitted_here: false,
        })
      }
      keep={t("sell_form.hand_it_over")}
      onLeave={onLeave}
    >
      <Figures>
        <Typed
          path="volts"
          label={t("screens.volts_now")}
          value={volts}
          onChange={setVolts}
          unit="V"
          autoFocus
          problem={voltsFault(volts)}
        />
        <Typed path="price_cents" label={t("screens.price")} value={price} onChange={setPrice} unit={currency} />
        <Typed path="customer_name" label={t("sell_form.for_whom")} value={name} onChange={setName} numeric={false} />
      </Figures>
    </EntryForm>
  );
}
