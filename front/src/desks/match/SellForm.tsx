/** Handing one over: its volts and serial at the counter; it becomes a battery of its own, and its fitting list opens. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { askAgain } from "../../api/live";
import { battery } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Choice, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { amountOf, centsOf } from "../../kit/money";
import { voltsFault, voltsOf } from "../../kit/units";
import { money } from "../../kit/words";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import styled from "styled-components";
import { FormStack, Stack, Beside } from "../../kit/layout";
import { Fault } from "../../kit/formParts";

const PriceAndName = styled.div`
  display: grid;
  grid-template-columns: 1fr 1.4fr;
  gap: 8px;
`;
const ForWhom = styled(Soft)`
  align-self: end;
`;

interface Props {
  candidate: Schema["Candidate"];
  found: Schema["MatchView"];
  tag: number | null;
  vehicleId: number | null;
  /** Told when it is opened: what is being sold stays in front, whatever changes in stock meanwhile. */
  onOpen: () => void;
}
const WHERE = { here: t("sell_form.fitted_here"), away: t("sell_form.taken_along") } as const;

export function SellForm({ candidate, found, tag, vehicleId, onOpen }: Props) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [volts, setVolts] = useState("");
  const [serial, setSerial] = useState("");
  const [name, setName] = useState("");
  const [typedPrice, setTypedPrice] = useState<string | null>(null);
  const [where, setWhere] = useState<keyof typeof WHERE>("here");
  const old = useQuery({ ...battery(tag ?? 0), enabled: open && tag !== null });
  const writeId = useRef(newId());
  // The very piece of this write: when its answer was lost it may be sold already, and the same write is sent again.
  const [pieceId, setPieceId] = useState(candidate.piece?.id ?? null);
  const [askedCents, setAskedCents] = useState(candidate.price_cents ?? 0);
  const [goneId, setGoneId] = useState<number | null>(null);
  const next = candidate.piece;
  if (goneId !== null && next && next.id !== goneId) {
    // another sold it: the next one, at its own price, for it may be one that is priced down
    setGoneId(null);
    setPieceId(next.id);
    setAskedCents(candidate.price_cents ?? 0);
  }
  const price = typedPrice ?? amountOf(askedCents, found.currency);
  const paid = centsOf(price, found.currency);
  const sell = useMutation({
    mutationFn: (isRight: boolean) =>
      answerOf(
        api.POST("/api/sales", {
          params: writeHeader(writeId.current),
          body: {
            item_id: candidate.item_id,
            piece_id: pieceId,
            volts: voltsOf(volts) ?? 0,
            serial,
            serial_is_right: isRight,
            price_cents: paid,
            old_tag: tag,
            vehicle_id: vehicleId,
            use: found.requirement?.use ?? "private",
            stop_start_car: found.requirement?.stop_start ?? false,
            customer_name: name,
            customer_phone: "",
            customer_plate: "",
            fitted_here: where === "here",
          },
        }),
      ),
    onSuccess: (sale) => {
      void askAgain(["match"], ["goods"], ["shelf"]);
      void navigate(`/fitting/${sale.tag}`);
    },
    onError: (error) => {
      if (!(error instanceof ApiProblem) || error.status >= 500) return; // without an answer it is the same write
      writeId.current = newId();
      if (error.status !== 409) return;
      setGoneId(pieceId);
      setPieceId(null); // the oldest that is left
      void askAgain(["match"]);
    },
  });
  if (!open)
    return (
      <div>
        <Button
          $tone="strong"
          onPress={() => {
            setOpen(true);
            setPieceId(candidate.piece?.id ?? null);
            setAskedCents(candidate.price_cents ?? 0);
            onOpen();
          }}
        >
          {t("sell_form.sell_this_one", { price_cents: money(candidate.price_cents ?? 0, found.currency) })}
        </Button>
      </div>
    );
  const problem = sell.error instanceof ApiProblem ? sell.error : null;
  const piece = candidate.piece;
  const elsewhere = problem?.errors.filter((one) => !["volts", "serial", "price_cents"].includes(one.path)) ?? [];
  return (
    <FormStack
      aria-label={t("sell_form.sell", { name: candidate.name })}
      onSubmit={(event) => {
        event.preventDefault();
        if (voltsOf(volts) !== null && serial.trim() && paid !== null) sell.mutate(false);
      }}
    >
      {piece && (
        <Soft>
          {t("sell_form.the_oldest_of_months_here", {
            in_stock: candidate.in_stock,
            count: Math.round(piece.arrived_months_ago),
            t: piece.last_volts
              ? t("sell_form.last_at_v", { last_volts: localFigure(piece.last_volts.toFixed(2)) })
              : "",
          })}
        </Soft>
      )}
      <Stack $gap={8}>
        <Entry
          label={t("screens.volts_now")}
          value={volts}
          onChange={setVolts}
          unit="V"
          name="volts"
          autoFocus
          problem={voltsFault(volts) ?? problem?.of("volts")}
        />
        <Entry
          label={t("sell_form.its_serial")}
          value={serial}
          onChange={setSerial}
          numeric={false}
          name="serial"
          problem={problem?.of("serial")}
        />
      </Stack>
      <PriceAndName>
        <Entry
          label={t("screens.price")}
          value={price}
          onChange={setTypedPrice}
          unit={found.currency}
          name="price"
          problem={paid === null ? t("sell_form.an_amount_such_as_129_90") : problem?.of("price_cents")}
        />
        {tag === null || (old.data && !old.data.customer_name) ? (
          <Entry label={t("sell_form.for_whom")} value={name} onChange={setName} numeric={false} name="customer" />
        ) : (
          <ForWhom>
            {t("screens.for")} {old.data?.customer_name}
          </ForWhom>
        )}
      </PriceAndName>
      <Choice label={t("sell_form.where")} hideLabel value={where} words={WHERE} onChange={setWhere} />
      {elsewhere.map((one) => (
        <Fault key={one.message} role="alert">
          {one.message}
        </Fault>
      ))}
      {sell.error && !problem?.errors.length && <Fault role="alert">{sell.error.message}</Fault>}
      <Beside $gap={8}>
        <Button
          type="submit"
          $tone="strong"
          isDisabled={sell.isPending || voltsOf(volts) === null || !serial.trim() || paid === null}
        >
          {t("sell_form.hand_it_over")}
        </Button>
        {problem?.of("serial") && <Button onPress={() => sell.mutate(true)}>{t("screens.the_serial_is_right")}</Button>}
        <Button type="button" onPress={() => setOpen(false)}>
          {t("sell_form.not_yet")}
        </Button>
      </Beside>
    </FormStack>
  );
}
