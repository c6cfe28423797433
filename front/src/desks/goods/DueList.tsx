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
  refused: t("stood too long"),
  fill: t("to fill"),
  charge: t("to charge"),
  volts: t("to read"),
  nothing: t("well"),
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
        {total === 0 ? t("All {0} pieces are well.", found.in_stock) : t("Of {0} pieces {1}.", found.in_stock, each)}
      </p>
      <ul aria-label={t("Pieces that want a hand")}>
        {found.pieces.map((piece) => (
          <Due key={piece.id} piece={piece} isLead={isLead} onItem={onItem} />
        ))}
      </ul>
      {total > found.pieces.length && <Soft>{t("and {0} more after these", total - found.pieces.length)}</Soft>}
    </>
  );
}

function Due({ piece, isLead, onItem }: { piece: Schema["PieceView"]; isLead: boolean; onItem: (id: number) => void }) {
  return (
    <Row data-due={piece.state.due}>
      <Number>{t("no. {0}", piece.id)}</Number>
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
              aria={t("Volts of no. {0}", piece.id)}
              value={volts}
              onChange={setVolts}
              unit="V"
              name="volts"
              autoFocus
              problem={voltsFault(volts) ?? done.of("volts") ?? done.beside("volts")}
            />
          </OneFigure>
          <Button type="submit" $tone="strong" isDisabled={voltsOf(volts) === null || done.pending}>
            {t("Keep")}
          </Button>
          <Button type="button" onPress={() => setReading(null)} aria-label={t("Leave it")}>
            ✕
          </Button>
        </Doing>
      </form>
    );
  const name = t(" of no. {0}", piece.id);
  if (piece.on_the_way) return <Soft>{t("on the way")}</Soft>;
  return (
    <Doing>
      {due === "fill" && (
        <Button
          $tone="copper"
          onPress={() => done.write({ what: "filled" })}
          aria-label={t("Filled: no. {0}", piece.id)}
        >
          {t("Filled")}
        </Button>
      )}
      {due === "charge" && (
        <Button $tone="copper" onPress={() => setReading("charged")} aria-label={t("Charged: no. {0}", piece.id)}>
          {t("Charged")}
        </Button>
      )}
      {(due === "volts" || due === "nothing") && !piece.state.is_dry && (
        <Button
          {...(due === "volts" ? { $tone: "copper" as const } : {})}
          onPress={() => setReading("volts")}
          aria-label={t("Volts{0}", name)}
        >
          {t("Volts")}
        </Button>
      )}
      {due === "refused" && isLead && !piece.set_aside && (
        <Button
          $tone="copper"
          onPress={() => done.write({ what: "set_aside" })}
          aria-label={t("Set aside: no. {0}", piece.id)}
        >
          {t("Set aside")}
        </Button>
      )}
      {piece.set_aside && isLead && (
        <Button onPress={() => done.write({ what: "back" })} aria-label={t("Take back: no. {0}", piece.id)}>
          {t("Take back")}
        </Button>
      )}
      {!onItem && !piece.set_aside && <SendTo what={{ piece_id: piece.id }} name={t("no. {0}", piece.id)} />}
      {onItem && (
        <Button onPress={() => onItem(piece.item_id)} aria-label={t("Item{0}: {1}", name, piece.name)}>
          …
        </Button>
      )}
      {done.beside() && <Fault role="alert">{done.beside()}</Fault>}
    </Doing>
  );
}
