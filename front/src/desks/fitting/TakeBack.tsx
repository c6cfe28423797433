/** A sale taken back: void on its day, returned, or exchanged for another; folded until it is asked for. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, answerOf, type Schema } from "../../api/client";
import { askAgain } from "../../api/live";
import { matchFor } from "../../api/queries";
import { EntryForm, FaultOf, Typed } from "../../kit/EntryForm";
import { amountOf, centsOf, money } from "../../kit/money";
import { Button, Choice, Soft } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { voltsFault, voltsOf } from "../../kit/units";
import { dayOf } from "../../kit/words";
import { t } from "../../language/t";
import { Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";

type What = Schema["TakeBack"]["what"];
const WAYS: Record<What, string> = {
  void: t("take_back.void"),
  return: t("take_back.returned"),
  exchange: t("take_back.exchanged"),
};

export function TakeBack({ found }: { found: Schema["SaleView"] }) {
  const [open, setOpen] = useState(false);
  if (found.way_back) return <Back back={found.way_back} currency={found.currency} />;
  const may = found.may_go_back;
  if (!may) return null;
  if (!open)
    return (
      <div>
        <Button onPress={() => setOpen(true)}>{t("take_back.take_it_back")}</Button>{" "}
        <Soft>{t("take_back.until", { return_until: dayOf(may.return_until) })}</Soft>
      </div>
    );
  return <BackForm found={found} may={may} onLeave={() => setOpen(false)} />;
}

/** How it was taken back, for good. */
function Back({ back, currency }: { back: Schema["WayBackView"]; currency: string }) {
  const became = { new: t("take_back.as_new"), used: t("take_back.as_used"), dead: t("take_back.as_dead") };
  return (
    <p role="status">
      <b>{WAYS[back.what]}</b>, {dayOf(back.at)}, {back.who}: {back.reason}.{" "}
      {t("take_back.given_back", { sum: money(back.refund_cents + back.deposit_back_cents, currency) })}{" "}
      {became[back.piece_is]}
    </p>
  );
}

interface FormProps {
  found: Schema["SaleView"];
  may: Schema["MayGoBack"];
  onLeave: () => void;
}

function BackForm({ found, may, onLeave }: FormProps) {
  const navigate = useNavigate();
  const [what, setWhat] = useState<What>(may.void ? "void" : "return");
  const [reason, setReason] = useState("");
  const [volts, setVolts] = useState("");
  const [refund, setRefund] = useState(amountOf(may.paid_cents, found.currency));
  const [other, setOther] = useState<Other | null>(null);
  const write = useWrite(
    (body: Schema["TakeBack"], named) =>
      answerOf(
        api.POST("/api/batteries/{tag}/sale/way-back", { params: { ...named, path: { tag: found.tag } }, body }),
      ),
    (answer) => {
      void askAgain(["battery", found.tag], ["life", found.tag], ["shelf"]);
      if (answer.tag !== found.tag) void navigate(`/fitting/${answer.tag}`);
    },
  );
  const isVoid = what === "void";
  const cents = centsOf(refund, found.currency);
  const ready =
    reason.trim() !== "" &&
    (isVoid || (voltsOf(volts) !== null && cents !== null)) &&
    (what !== "exchange" || (other !== null && other.serial.trim() !== "" && voltsOf(other.volts) !== null));
  return (
    <EntryForm
      label={t("take_back.take_it_back")}
      write={write}
      ready={ready}
      onSend={() =>
        write.write({
          what,
          reason,
          volts: isVoid ? null : voltsOf(volts),
          refund_cents: isVoid ? null : cents,
          other: what === "exchange" && other ? soldFor(other) : null,
        })
      }
      keep={t("take_back.take_it_back")}
      onLeave={onLeave}
    >
      <Choice label={t("take_back.how")} hideLabel value={what} words={WAYS} onChange={setWhat} />
      <FaultOf path="what" />
      <Typed path="reason" label={t("take_back.why")} value={reason} onChange={setReason} numeric={false} autoFocus />
      {!isVoid && (
        <Figures>
          <Typed
            path="volts"
            label={t("screens.volts_now")}
            value={volts}
            onChange={setVolts}
            unit="V"
            problem={voltsFault(volts)}
          />
          <Typed
            path="refund_cents"
            label={t("take_back.of_its_price")}
            value={refund}
            onChange={setRefund}
            unit={found.currency}
          />
        </Figures>
      )}
      {what === "exchange" && <OtherOne tag={found.tag} other={other} onChange={setOther} currency={found.currency} />}
      <Soft>
        {t("take_back.goes_back_now", {
          sum: money((isVoid ? may.paid_cents : (cents ?? 0)) + may.deposit_back_cents, found.currency),
        })}
      </Soft>
    </EntryForm>
  );
}

/** The one handed over for it. */
interface Other {
  itemId: number;
  volts: string;
  serial: string;
}

const soldFor = (other: Other): Schema["Sell"] => ({
  item_id: other.itemId,
  piece_id: null,
  volts: voltsOf(other.volts) ?? 0,
  serial: other.serial,
  serial_is_right: false,
  price_cents: null,
  old_tag: null,
  vehicle_id: null,
  use: "private",
  stop_start_car: false,
  customer_name: "",
  customer_phone: "",
  customer_plate: "",
  fitted_here: false,
});

interface OtherProps {
  tag: number;
  other: Other | null;
  onChange: (other: Other | null) => void;
  currency: string;
}

function OtherOne({ tag, other, onChange, currency }: OtherProps) {
  const { data: matched } = useQuery(matchFor(tag));
  const fitting = (matched?.matches ?? []).filter((one) => one.fit !== "rejected" && one.candidate.in_stock);
  return (
    <>
      <Pick
        label={t("take_back.handed_over_for_it")}
        value={other ? String(other.itemId) : null}
        onChange={(id) => onChange(id ? { itemId: Number(id), volts: "", serial: "" } : null)}
        options={fitting.map(({ candidate }) => ({
          id: String(candidate.item_id),
          name: candidate.name,
          note: money(candidate.price_cents, currency),
        }))}
        placeholder={t("warranty_desk.pick_one_that_fits")}
      />
      <FaultOf path="other" />
      {other && (
        <Figures>
          <Typed
            path="other.volts"
            label={t("screens.volts_now")}
            value={other.volts}
            onChange={(volts) => onChange({ ...other, volts })}
            unit="V"
          />
          <Typed
            path="other.serial"
            label={t("sell_form.its_serial")}
            value={other.serial}
            onChange={(serial) => onChange({ ...other, serial })}
            numeric={false}
          />
        </Figures>
      )}
    </>
  );
}
