/** The undo of the last entry, always in sight with its key; before anything was read, that of the take-in. */
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { learn } from "../../api/live";
import { newId } from "../../kit/clock";
import { takeInHand } from "../../kit/inHand";
import { useLetters } from "../../kit/letters";
import { Button, Key_ } from "../../kit/parts";
import { timeOf } from "../../kit/words";
import type { Standing } from "./drafts";
import { kindOf, RUNGS, summaryOf, type Kind } from "./rungs";
import { t } from "../../language/t";

const Trouble = styled.p`
  color: var(--failed);
  flex-basis: 100%;
`;

const Line = styled.div`
  position: sticky;
  bottom: 0;
  margin-top: auto;
  padding: 6px 0 8px;
  background: var(--ground);
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  color: var(--soft);
  font-size: 16px;
  & > span {
    flex: 1;
    min-width: 140px;
    line-height: 1.2;
  }
`;

interface Props {
  view: Schema["CheckView"];
  last: Standing | undefined;
  store: Schema["StoreView"];
  /** What the core says of the last entry: corrected figures are the same here. */
  says: Schema["Finding"] | undefined;
  /** It holds a hazard: that is taken back by a correction with a reason, not by one key. */
  needsReason: boolean;
  onUndo: (entry: Standing) => void;
  onCorrect: (kind: Kind) => void;
}

export function UndoLine({ view, last, store, says, needsReason, onUndo, onCorrect }: Props) {
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const [write] = useState(newId);
  const title = RUNGS.find((rung) => rung.kind === last?.reading.kind)?.title ?? "";
  const mayUndoTakeIn = !last && !view.undone && !view.claimed && view.place !== "gone";

  async function undoTakeIn() {
    try {
      const undone = answerOf(
        api.POST("/api/batteries/{tag}/undo", { params: { path: { tag: view.tag }, ...writeHeader(write) }, body: {} }),
      );
      await learn(await undone);
      takeInHand(null);
      await navigate("/counter");
    } catch (error) {
      setTrouble(error instanceof ApiProblem ? error.message : t("screens.the_server_does_not_answer_try_again_in_a"));
    }
  }
  function undo() {
    if (last && needsReason) onCorrect(kindOf(last.reading));
    else if (last) onUndo(last);
    else if (mayUndoTakeIn) void undoTakeIn();
  }
  useLetters({ z: undo });

  if (view.undone) return <Line role="status">{t("screens.taken_in_by_mistake_and_taken_back")}</Line>;
  if (!last && !mayUndoTakeIn) return null;
  return (
    <Line>
      {last ? (
        <span>
          {t("undo_line.last", { title })} {summaryOf(last.reading, view.battery, store, says)}
          {last.keptAt && `, ${timeOf(last.keptAt)}`}
        </span>
      ) : (
        <span>{t("undo_line.taken_in_nothing_read_yet", { came_at: timeOf(view.came_at) })}</span>
      )}
      <Button onPress={undo}>
        {last
          ? needsReason
            ? t("undo_line.take_it_back_with_a_reason")
            : t("undo_line.undo")
          : t("undo_line.taken_in_by_mistake")}
        <span className="quiet">
          {last ? t("undo_line.the_last_entry", { title }) : t("undo_line.undo_the_take_in")}
        </span>{" "}
        <Key_>Z</Key_>
      </Button>
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
    </Line>
  );
}
