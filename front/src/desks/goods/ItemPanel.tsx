/** One item: its pieces, what comes of it, goods received; its figures and price, which a lead writes anew. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form, Link } from "react-aria-components";
import styled from "styled-components";
import { api, asked, type Schema } from "../../api/client";
import { oneItem } from "../../api/queries";
import { DayField } from "../../kit/DayField";
import { Button, Choice, Entry, Soft, touchLink } from "../../kit/parts";
import { numberOf, voltsFault, voltsOf } from "../../kit/units";
import { dayOf, timeOf } from "../../kit/words";
import { PieceActs } from "./DueList";
import { ItemForm } from "./ItemForm";
import { Acts, Fault, Figures, Small } from "./parts";
import { useWrite } from "./useWrite";

const Paper = styled(Link)`
  ${touchLink}
`;

interface Props {
  id: number | "new";
  isLead: boolean;
  onDone: () => void;
}

export function ItemPanel({ id, isLead, onDone }: Props) {
  const { data: found, error } = useQuery({ ...oneItem(id === "new" ? 0 : id), enabled: id !== "new" });
  const [doing, setDoing] = useState<"receive" | "order" | "write" | null>(null);
  if (id === "new") return <ItemForm row={null} onDone={onDone} />;
  if (error) return <Fault role="alert">{error.message}</Fault>;
  if (!found) return null;
  if (doing === "write") return <ItemForm row={found} onDone={() => setDoing(null)} />;
  return (
    <>
      <h2>{found.item.name}</h2>
      <Soft>{words(found.item)}</Soft>
      <Acts>
        <Button $tone="strong" onPress={() => setDoing(doing === "receive" ? null : "receive")}>
          Goods received
        </Button>
        <Button onPress={() => setDoing(doing === "order" ? null : "order")}>Order</Button>
        {isLead && <Button onPress={() => setDoing("write")}>Price and figures</Button>}
        <Paper href={`/api/goods/${found.id}/shelf-tag.pdf`} target="_blank">
          Shelf tag
        </Paper>
      </Acts>
      {doing === "receive" && <ReceiveForm found={found} onDone={() => setDoing(null)} />}
      {doing === "order" && <OrderForm found={found} onDone={() => setDoing(null)} />}
      {found.orders.length > 0 && (
        <>
          <h2>On order</h2>
          <Small>
            {found.orders.map((order) => (
              <OneOrder key={order.id} order={order} />
            ))}
          </Small>
        </>
      )}
      <h2>{found.pieces.length ? `${found.pieces.length} pieces, the oldest first` : "None here"}</h2>
      <Small>
        {found.pieces.map((piece) => (
          <li key={piece.id} style={{ display: "flex", justifyContent: "space-between", gap: 8, alignItems: "center" }}>
            <span>
              no. {piece.id}, here since {dayOf(piece.arrived_on)}
              {piece.last_volts !== null && `, ${piece.last_volts.toFixed(2)} V`}
              <br />
              <Soft>
                {piece.set_aside ? "set aside; " : ""}
                {piece.state.why}
                {piece.state.reduced && "; priced down"}
              </Soft>
            </span>
            <PieceActs piece={piece} isLead={isLead} />
          </li>
        ))}
      </Small>
      {found.before.length > 0 && (
        <>
          <h2>Written before</h2>
          <Small>
            {found.before.map((entry) => (
              <li key={entry.at}>
                {dayOf(entry.at)} {timeOf(entry.at)}, {entry.who}: {entry.said}
              </li>
            ))}
          </Small>
        </>
      )}
    </>
  );
}

function words(item: Schema["GoodsItem"]): string {
  const { rating } = item;
  return [
    `size ${item.group_code || "its own"}`,
    `${item.length_mm} × ${item.width_mm} × ${item.height_mm} mm`,
    `positive ${item.positive_side ?? "?"}`,
    `${rating.amps} ${rating.scale ?? "CCA"}`,
    item.capacity_ah_20h ? `${item.capacity_ah_20h} Ah` : "Ah not known",
    item.reserve_minutes ? `${item.reserve_minutes} min reserve` : "",
    item.vent_tube ? "vent tube" : "",
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
    (body: Schema["Receive"], name) => asked(api.POST("/api/goods/receive", { params: name, body })),
    onDone,
  );
  const count = numberOf(pieces);
  const order = found.orders[0];
  return (
    <Form
      aria-label="Goods received"
      style={{ display: "grid", gap: 10 }}
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
          label="Pieces"
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={receive.of("pieces")}
        />
        {dry === "no" && (
          <Entry
            label="Volts at arrival, the lowest"
            value={volts}
            onChange={setVolts}
            unit="V"
            name="volts"
            problem={voltsFault(volts) ?? receive.of("volts")}
          />
        )}
        <DayField label="Made on" value={made} onChange={setMade} problem={receive.of("made_on")} />
      </Figures>
      <Choice label="Dry-charged" value={dry} words={{ no: "No", yes: "Yes: not filled yet" }} onChange={setDry} />
      {order && <Soft>Closes the order of {dayOf(order.written_at)}.</Soft>}
      {receive.beside("pieces", "volts", "made_on") && (
        <Fault role="alert">{receive.beside("pieces", "volts", "made_on")}</Fault>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={receive.pending || count === null}>
          Put them on the shelf
        </Button>
        <Button type="button" onPress={onDone}>
          Leave it
        </Button>
      </Acts>
    </Form>
  );
}

function OrderForm({ found, onDone }: { found: Schema["ItemDetail"]; onDone: () => void }) {
  const [pieces, setPieces] = useState("1");
  const [note, setNote] = useState("");
  const [day, setDay] = useState<string | null>(null);
  const order = useWrite(
    (body: Schema["WriteOrder"], name) => asked(api.POST("/api/orders", { params: name, body })),
    onDone,
  );
  const count = numberOf(pieces);
  return (
    <Form
      aria-label="Order"
      style={{ display: "grid", gap: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (count !== null) order.write({ item_id: found.id, pieces: count, note, expected_on: day });
      }}
    >
      <Figures>
        <Entry
          label="Pieces"
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={order.of("pieces")}
        />
        <DayField label="Expected on" value={day} onChange={setDay} problem={order.of("expected_on")} />
      </Figures>
      <Entry label="Note" value={note} onChange={setNote} numeric={false} name="note" problem={order.of("note")} />
      {order.beside("pieces", "note", "expected_on") && <Fault role="alert">{order.beside("pieces", "note")}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={order.pending || count === null}>
          Write it down
        </Button>
        <Button type="button" onPress={onDone}>
          Leave it
        </Button>
      </Acts>
    </Form>
  );
}

function OneOrder({ order }: { order: Schema["OrderView"] }) {
  const close = useWrite((body: Schema["CloseOrder"], name) =>
    asked(api.POST("/api/orders/{order_id}/close", { params: { ...name, path: { order_id: order.id } }, body })),
  );
  return (
    <li style={{ display: "flex", justifyContent: "space-between", gap: 8, alignItems: "center" }}>
      <span>
        {order.pieces} pieces, {order.expected_on ? `due ${dayOf(order.expected_on)}` : "no day"}
        {order.note && `: ${order.note}`}
        {close.beside() && <Fault role="alert">{close.beside()}</Fault>}
      </span>
      <Button onPress={() => close.write({ how: "dropped" })} isDisabled={close.pending}>
        Not wanted
      </Button>
    </li>
  );
}
