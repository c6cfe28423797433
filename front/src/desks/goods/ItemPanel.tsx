/** One item: its pieces, what comes of it, goods received; its figures and price, which a lead writes anew. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { itemOf } from "../../api/queries";
import { DayField } from "../../kit/DayField";
import { Button, Choice, Soft, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { numberOf, voltsFault, voltsOf } from "../../kit/units";
import { dayOf, money, timeOf } from "../../kit/words";
import { PieceActs } from "./DueList";
import { ItemForm } from "./ItemForm";
import { Acts, Fault, Figures, Small } from "./parts";
import { useWrite } from "./useWrite";
import { say, localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import { FormStack } from "../../kit/layout";

const PieceLine = styled.li`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: center;
`;

const Paper = styled(Link)`
  ${touchLink}
`;

interface Props {
  id: number | "new";
  isLead: boolean;
  onDone: () => void;
}

export function ItemPanel({ id, isLead, onDone }: Props) {
  const { data: found, error } = useQuery({ ...itemOf(id === "new" ? 0 : id), enabled: id !== "new" });
  const [doing, setDoing] = useState<"receive" | "order" | "write" | null>(null);
  if (id === "new") return <ItemForm row={null} onDone={onDone} />;
  if (!found && error) return <Fault role="alert">{error.message}</Fault>;
  if (!found) return null;
  if (doing === "write") return <ItemForm row={found} onDone={() => setDoing(null)} />;
  return (
    <>
      <h2>{found.item.name}</h2>
      <Soft>{words(found.item)}</Soft>
      <Acts>
        <Button $tone="strong" onPress={() => setDoing(doing === "receive" ? null : "receive")}>
          {t("Goods received")}
        </Button>
        <Button onPress={() => setDoing(doing === "order" ? null : "order")}>{t("Order")}</Button>
        {isLead && <Button onPress={() => setDoing("write")}>{t("Price and figures")}</Button>}
        <Paper href={linkTo("/api/goods/{item_id}/shelf-tag.pdf", { item_id: found.id })} target="_blank">
          {t("Shelf tag")}
        </Paper>
      </Acts>
      {doing === "receive" && <ReceiveForm found={found} onDone={() => setDoing(null)} />}
      {doing === "order" && <OrderForm found={found} onDone={() => setDoing(null)} />}
      {found.orders.length > 0 && (
        <>
          <h2>{t("On order")}</h2>
          <Small>
            {found.orders.map((order) => (
              <OneOrder key={order.id} order={order} />
            ))}
          </Small>
        </>
      )}
      <h2>{found.pieces.length ? t("{0} pieces, the oldest first", found.pieces.length) : t("None here")}</h2>
      <Small>
        {found.pieces.map((piece) => (
          <PieceLine key={piece.id}>
            <span>
              {t("no. {0}, here since {1}", piece.id, dayOf(piece.arrived_on))}
              {piece.last_volts !== null && `, ${localFigure(piece.last_volts.toFixed(2))} V`}
              <br />
              <Soft>
                {piece.set_aside ? t("set aside; ") : ""}
                {piece.state.why}
                {piece.state.reduced && t("; priced down")}
              </Soft>
            </span>
            <PieceActs piece={piece} isLead={isLead} />
          </PieceLine>
        ))}
      </Small>
      {found.before.length > 0 && (
        <>
          <h2>{t("Written before")}</h2>
          <Small>
            {found.before.map((entry) => (
              <li key={`${entry.at}${entry.stood ? " before" : ""}`}>
                {dayOf(entry.at)} {timeOf(entry.at)}, {whose(entry)}:{" "}
                {t(
                  "{0}, deposit {1}",
                  money(entry.price_cents, found.currency),
                  money(entry.core_deposit_cents, found.currency),
                )}
                {entry.name !== found.item.name && <Soft> {t("as {0}", entry.name)}</Soft>}
              </li>
            ))}
          </Small>
        </>
      )}
    </>
  );
}

/** Who wrote it; what a list or another store's catalogue changed was written by nobody here. */
const whose = (entry: Schema["EntryView"]) =>
  entry.stood ? t("as it stood until then") : entry.who || t("the shared catalogue");

function words(item: Schema["GoodsItem"]): string {
  const { rating } = item;
  return [
    t("size {0}", item.group_code || t("its own")),
    t("{0} × {1} × {2} mm", item.length_mm, item.width_mm, item.height_mm),
    t("positive {0}", say(item.positive_side ?? "?")),
    `${rating.amps} ${rating.scale ?? "CCA"}`,
    item.capacity_ah_20h ? t("{0} Ah", item.capacity_ah_20h) : t("Ah not known"),
    item.reserve_minutes ? t("{0} min reserve", item.reserve_minutes) : "",
    item.vent_tube ? t("vent tube") : "",
  ]
    .filter(Boolean)
    .join(", ");
}

function ReceiveForm({ found, onDone }: { found: Schema["ItemDetail"]; onDone: () => void }) {
  const [pieces, setPieces] = useState(String(found.orders[0]?.pieces ?? 1));
  const [volts, setVolts] = useState("");
  const [made, setMade] = useState<string | null>(null);
  const [dry, setDry] = useState<"no" | "yes">("no");
  const receive = useWrite(
    (body: Schema["Receive"], name) => answerOf(api.POST("/api/goods/receive", { params: name, body })),
    onDone,
  );
  const count = numberOf(pieces);
  const order = found.orders[0];
  return (
    <FormStack
      aria-label={t("Goods received")}
      onSubmit={(event) => {
        event.preventDefault();
        if (count !== null)
          receive.write({
            item_id: found.id,
            pieces: count,
            volts: dry === "yes" ? null : voltsOf(volts),
            made_on: made,
            dry_charged: dry === "yes",
            order_id: order?.id ?? null,
          });
      }}
    >
      <Figures>
        <Entry
          label={t("Pieces")}
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={receive.of("pieces")}
        />
        {dry === "no" && (
          <Entry
            label={t("Volts at arrival, the lowest")}
            value={volts}
            onChange={setVolts}
            unit="V"
            name="volts"
            problem={voltsFault(volts) ?? receive.of("volts")}
          />
        )}
        <DayField label={t("Made on")} value={made} onChange={setMade} problem={receive.of("made_on")} />
      </Figures>
      <Choice
        label={t("Dry-charged")}
        value={dry}
        words={{ no: t("No"), yes: t("Yes: not filled yet") }}
        onChange={setDry}
      />
      {order && <Soft>{t("Closes the order of {0}.", dayOf(order.written_at))}</Soft>}
      {receive.beside("pieces", "volts", "made_on") && (
        <Fault role="alert">{receive.beside("pieces", "volts", "made_on")}</Fault>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={receive.pending || count === null}>
          {t("Put them on the shelf")}
        </Button>
        <Button type="button" onPress={onDone}>
          {t("Leave it")}
        </Button>
      </Acts>
    </FormStack>
  );
}

function OrderForm({ found, onDone }: { found: Schema["ItemDetail"]; onDone: () => void }) {
  const [pieces, setPieces] = useState("1");
  const [note, setNote] = useState("");
  const [day, setDay] = useState<string | null>(null);
  const order = useWrite(
    (body: Schema["WriteOrder"], name) => answerOf(api.POST("/api/orders", { params: name, body })),
    onDone,
  );
  const count = numberOf(pieces);
  return (
    <FormStack
      aria-label={t("Order")}
      onSubmit={(event) => {
        event.preventDefault();
        if (count !== null) order.write({ item_id: found.id, pieces: count, note, expected_on: day });
      }}
    >
      <Figures>
        <Entry
          label={t("Pieces")}
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={order.of("pieces")}
        />
        <DayField label={t("Expected on")} value={day} onChange={setDay} problem={order.of("expected_on")} />
      </Figures>
      <Entry label={t("Note")} value={note} onChange={setNote} numeric={false} name="note" problem={order.of("note")} />
      {order.beside("pieces", "note", "expected_on") && <Fault role="alert">{order.beside("pieces", "note")}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={order.pending || count === null}>
          {t("Write it down")}
        </Button>
        <Button type="button" onPress={onDone}>
          {t("Leave it")}
        </Button>
      </Acts>
    </FormStack>
  );
}

function OneOrder({ order }: { order: Schema["OrderView"] }) {
  const close = useWrite((body: Schema["CloseOrder"], name) =>
    answerOf(api.POST("/api/orders/{order_id}/close", { params: { ...name, path: { order_id: order.id } }, body })),
  );
  return (
    <PieceLine>
      <span>
        {t(
          "{0} pieces, {1}{2}",
          order.pieces,
          order.expected_on ? t("due {0}", dayOf(order.expected_on)) : t("no day"),
          order.note && `: ${order.note}`,
        )}
        {close.beside() && <Fault role="alert">{close.beside()}</Fault>}
      </span>
      <Button onPress={() => close.write({ how: "dropped" })} isDisabled={close.pending}>
        {t("Not wanted")}
      </Button>
    </PieceLine>
  );
}
