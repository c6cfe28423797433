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
import { SellUsed } from "./SellUsed";
import { Acts, Fault, Figures, Small } from "./parts";
import { useWrite } from "./useWrite";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import { FormStack } from "../../kit/layout";
import { wordOf } from "../../language/speak";

const PieceLine = styled.li`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: center;
`;

const Paper = styled(Link)`
  ${touchLink}
`;

const CAME_BACK = { used: t("item_panel.came_back_used"), dead: t("item_panel.came_back_dead") } as const;

interface Props {
  id: number | "new";
  isLead: boolean;
  onDone: () => void;
}

export function ItemPanel({ id, isLead, onDone }: Props) {
  const { data: found, error } = useQuery({ ...itemOf(id === "new" ? 0 : id), enabled: id !== "new" });
  const [doing, setDoing] = useState<"receive" | "order" | "write" | null>(null);
  const [selling, setSelling] = useState<number | null>(null);
  const sellingPiece = found?.pieces.find((piece) => piece.id === selling);
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
          {t("item_panel.goods_received")}
        </Button>
        <Button onPress={() => setDoing(doing === "order" ? null : "order")}>{t("item_panel.order")}</Button>
        {isLead && <Button onPress={() => setDoing("write")}>{t("item_panel.price_and_figures")}</Button>}
        <Paper href={linkTo("/api/goods/{item_id}/shelf-tag.pdf", { item_id: found.id })} target="_blank">
          {t("item_panel.shelf_tag")}
        </Paper>
      </Acts>
      {doing === "receive" && <ReceiveForm found={found} onDone={() => setDoing(null)} />}
      {doing === "order" && <OrderForm found={found} onDone={() => setDoing(null)} />}
      {found.orders.length > 0 && (
        <>
          <h2>{t("item_panel.on_order")}</h2>
          <Small>
            {found.orders.map((order) => (
              <OneOrder key={order.id} order={order} />
            ))}
          </Small>
        </>
      )}
      <h2>
        {found.pieces.length
          ? t("item_panel.pieces_the_oldest_first", { count: found.pieces.length })
          : t("item_panel.none_here")}
      </h2>
      <Small>
        {found.pieces.map((piece) => (
          <PieceLine key={piece.id}>
            <span>
              {t("item_panel.no_here_since", { id: piece.id, arrived_on: dayOf(piece.arrived_on) })}
              {piece.last_volts !== null && `, ${localFigure(piece.last_volts.toFixed(2))} V`}
              <br />
              <Soft>
                {piece.set_aside ? t("item_panel.set_aside") : ""}
                {piece.came_back ? CAME_BACK[piece.came_back] : piece.state.why}
                {piece.state.reduced && t("item_panel.priced_down")}
              </Soft>
            </span>
            {piece.came_back === "used" && (
              <Button onPress={() => setSelling(selling === piece.id ? null : piece.id)}>
                {t("sell_used.sell_it_used")}
              </Button>
            )}
            <PieceActs piece={piece} isLead={isLead} />
          </PieceLine>
        ))}
      </Small>
      {sellingPiece && <SellUsed piece={sellingPiece} currency={found.currency} onLeave={() => setSelling(null)} />}
      {found.before.length > 0 && (
        <>
          <h2>{t("screens.written_before")}</h2>
          <Small>
            {found.before.map((entry) => (
              <li key={`${entry.at}${entry.stood ? " before" : ""}`}>
                {dayOf(entry.at)} {timeOf(entry.at)}, {whose(entry)}:{" "}
                {t("item_panel.deposit", {
                  price_cents: money(entry.price_cents, found.currency),
                  core_deposit_cents: money(entry.core_deposit_cents, found.currency),
                })}
                {entry.name !== found.item.name && <Soft> {t("screens.as", { name: entry.name })}</Soft>}
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
  entry.stood ? t("item_panel.as_it_stood_until_then") : entry.who || t("item_panel.the_shared_catalogue");

function words(item: Schema["GoodsItem"]): string {
  const { rating } = item;
  return [
    t("item_panel.size", { group_code: item.group_code || t("screens.its_own") }),
    t("item_panel.mm", { length_mm: item.length_mm, width_mm: item.width_mm, height_mm: item.height_mm }),
    t("item_panel.positive", { positive_side: wordOf(item.positive_side ?? "?") }),
    `${rating.amps} ${rating.scale ?? "CCA"}`,
    item.capacity_ah_20h ? t("screens.ah", { capacity_ah_20h: item.capacity_ah_20h }) : t("item_panel.ah_not_known"),
    item.reserve_minutes ? t("item_panel.min_reserve", { reserve_minutes: item.reserve_minutes }) : "",
    item.vent_tube ? t("screens.vent_tube_2") : "",
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
      aria-label={t("item_panel.goods_received")}
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
          label={t("item_panel.pieces")}
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={receive.of("pieces")}
        />
        {dry === "no" && (
          <Entry
            label={t("item_panel.volts_at_arrival_the_lowest")}
            value={volts}
            onChange={setVolts}
            unit="V"
            name="volts"
            problem={voltsFault(volts) ?? receive.of("volts")}
          />
        )}
        <DayField label={t("item_panel.made_on")} value={made} onChange={setMade} problem={receive.of("made_on")} />
      </Figures>
      <Choice
        label={t("item_panel.dry_charged")}
        value={dry}
        words={{ no: t("screens.no"), yes: t("item_panel.yes_not_filled_yet") }}
        onChange={setDry}
      />
      {order && <Soft>{t("item_panel.closes_the_order_of", { written_at: dayOf(order.written_at) })}</Soft>}
      {receive.beside("pieces", "volts", "made_on") && (
        <Fault role="alert">{receive.beside("pieces", "volts", "made_on")}</Fault>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={receive.pending || count === null}>
          {t("item_panel.put_them_on_the_shelf")}
        </Button>
        <Button type="button" onPress={onDone}>
          {t("screens.leave_it")}
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
      aria-label={t("item_panel.order")}
      onSubmit={(event) => {
        event.preventDefault();
        if (count !== null) order.write({ item_id: found.id, pieces: count, note, expected_on: day });
      }}
    >
      <Figures>
        <Entry
          label={t("item_panel.pieces")}
          value={pieces}
          onChange={setPieces}
          name="pieces"
          autoFocus
          problem={order.of("pieces")}
        />
        <DayField label={t("item_panel.expected_on")} value={day} onChange={setDay} problem={order.of("expected_on")} />
      </Figures>
      <Entry
        label={t("screens.note")}
        value={note}
        onChange={setNote}
        numeric={false}
        name="note"
        problem={order.of("note")}
      />
      {order.beside("pieces", "note", "expected_on") && <Fault role="alert">{order.beside("pieces", "note")}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={order.pending || count === null}>
          {t("item_panel.write_it_down")}
        </Button>
        <Button type="button" onPress={onDone}>
          {t("screens.leave_it")}
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
        {t("item_panel.pieces_2", {
          count: order.pieces,
          t: order.expected_on ? t("item_panel.due", { expected_on: dayOf(order.expected_on) }) : t("screens.no_day"),
          note: order.note && `: ${order.note}`,
        })}
        {close.beside() && <Fault role="alert">{close.beside()}</Fault>}
      </span>
      <Button onPress={() => close.write({ how: "dropped" })} isDisabled={close.pending}>
        {t("item_panel.not_wanted")}
      </Button>
    </PieceLine>
  );
}
