/** The picking list: pieces that want a hand, the most pressing first; each is one action. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { dueGoods } from "../../api/queries";
import { Button, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { PHONE } from "../../kit/theme";
import { voltsFault, voltsOf } from "../../kit/units";
import { Fault } from "./parts";
import { SendTo } from "../../stores/sending";
import { useWrite } from "./useWrite";
import { t } from "../../language/t";

const OneFigure = styled.div`
  width: 110px;
`;

const Row = styled.li`
  display: grid;
  grid-template-columns: 66px minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
  font-size: 16px;
  line-height: 1.22;
  b {
    font-size: 17px;
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
  ${PHONE} {
    grid-template-columns: 66px minmax(0, 1fr);
  }
`;
const Number = styled.span`
  font-size: 16px;
  color: var(--soft);
`;
const Doing = styled.div`
  display: flex;
  gap: 6px;
  align-items: end;
`;

export const DUE: Record<Schema["Due"], string> = {
  refused: t("due_list.stood_too_long"),
  fill: t("due_list.to_fill"),
  charge: t("due_list.to_charge"),
  volts: t("due_list.to_read"),
  nothing: t("due_list.well"),
};

export function DueList({ isLead, onItem }: { isLead: boolean; onItem: (id: number) => void }) {
  const { data: found, error } = useQuery(dueGoods);
  if (!found && error) return <Fault role="alert">{error.message}</Fault>;
  if (!found) return null;
  const total = Object.values(found.counts).reduce((sum, count) => sum + (count ?? 0), 0);
  const each = Object.entries(found.counts)
    .map(([due, count]) => `${count} ${DUE[due as Schema["Due"]]}`)
    .join(", ");
  return (
    <>
      <p>
        {total === 0
          ? t("due_list.no_piece_needs_anything")
          : t("due_list.of_pieces", { in_stock: found.in_stock, each })}
      </p>
      <ul aria-label={t("due_list.pieces_that_want_a_hand")}>
        {found.pieces.map((piece) => (
          <Due key={piece.id} piece={piece} isLead={isLead} onItem={onItem} />
        ))}
      </ul>
      {total > found.pieces.length && (
        <Soft>{t("due_list.and_more_after_these", { total: total - found.pieces.length })}</Soft>
      )}
    </>
  );
}

function Due({ piece, isLead, onItem }: { piece: Schema["PieceView"]; isLead: boolean; onItem: (id: number) => void }) {
  return (
    <Row data-due={piece.state.due}>
      <Number>{t("due_list.no", { id: piece.id })}</Number>
      <span>
        <b>{piece.name}</b>
        <br />
        <small>{piece.state.why}</small>
      </span>
      <PieceActs piece={piece} isLead={isLead} onItem={onItem} />
    </Row>
  );
}

/** What can be done with a piece: the thing that is due first. */
export function PieceActs({
  piece,
  isLead,
  onItem,
}: {
  piece: Schema["PieceView"];
  isLead: boolean;
  onItem?: (id: number) => void;
}) {
  const [reading, setReading] = useState<"volts" | "charged" | null>(null);
  const [volts, setVolts] = useState("");
  const done = useWrite(
    (body: Schema["PieceDone"], name) =>
      answerOf(api.POST("/api/pieces/{piece_id}", { params: { ...name, path: { piece_id: piece.id } }, body })),
    () => setReading(null),
  );
  const { due } = piece.state;
  if (reading)
    return (
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const value = voltsOf(volts);
          if (value !== null) done.write({ what: reading, volts: value });
        }}
      >
        <Doing>
          <OneFigure>
            <Entry
              label=""
              aria={t("due_list.volts_of_no", { id: piece.id })}
              value={volts}
              onChange={setVolts}
              unit="V"
              name="volts"
              autoFocus
              problem={voltsFault(volts) ?? done.of("volts") ?? done.beside("volts")}
            />
          </OneFigure>
          <Button type="submit" $tone="strong" isDisabled={voltsOf(volts) === null || done.pending}>
            {t("screens.keep")}
          </Button>
          <Button type="button" onPress={() => setReading(null)} aria-label={t("screens.leave_it")}>
            ✕
          </Button>
        </Doing>
      </form>
    );
  const name = t("due_list.of_no", { id: piece.id });
  if (piece.on_the_way) return <Soft>{t("screens.on_the_way_2")}</Soft>;
  return (
    <Doing>
      {piece.came_back === "dead" && (
        <Button onPress={() => done.write({ what: "recycled" })}>{t("due_list.went_to_recycling")}</Button>
      )}
      {due === "fill" && (
        <Button
          $tone="copper"
          onPress={() => done.write({ what: "filled" })}
          aria-label={t("due_list.filled_no", { id: piece.id })}
        >
          {t("due_list.filled")}
        </Button>
      )}
      {due === "charge" && (
        <Button
          $tone="copper"
          onPress={() => setReading("charged")}
          aria-label={t("due_list.charged_no", { id: piece.id })}
        >
          {t("due_list.charged")}
        </Button>
      )}
      {(due === "volts" || due === "nothing") && !piece.state.is_dry && (
        <Button
          {...(due === "volts" ? { $tone: "copper" as const } : {})}
          onPress={() => setReading("volts")}
          aria-label={t("due_list.volts", { name })}
        >
          {t("screens.volts")}
        </Button>
      )}
      {due === "refused" && isLead && !piece.set_aside && !piece.came_back && (
        <Button
          $tone="copper"
          onPress={() => done.write({ what: "set_aside" })}
          aria-label={t("due_list.set_aside_no", { id: piece.id })}
        >
          {t("due_list.set_aside")}
        </Button>
      )}
      {piece.set_aside && isLead && (
        <Button onPress={() => done.write({ what: "back" })} aria-label={t("due_list.take_back_no", { id: piece.id })}>
          {t("due_list.take_back")}
        </Button>
      )}
      {!onItem && !piece.set_aside && (
        <SendTo what={{ piece_id: piece.id }} name={t("due_list.no", { id: piece.id })} />
      )}
      {onItem && (
        <Button onPress={() => onItem(piece.item_id)} aria-label={t("due_list.item", { mark: name, name: piece.name })}>
          …
        </Button>
      )}
      {done.beside() && <Fault role="alert">{done.beside()}</Fault>}
    </Doing>
  );
}
