/** The counter: take a battery in; it is given a tag and goes to its check. */
import { useMemo, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { api, answerOf, writeHeader } from "../../api/client";
import { learn } from "../../api/live";
import { isUnanswered } from "../../api/queries";
import { DraftAt, Drafting } from "../../kit/drafts";
import { keepTakeIn } from "../../kit/outbox";
import { Page } from "../../kit/parts";
import { TakeInForm } from "./TakeInForm";
import { t } from "../../language/t";

export function CounterDesk() {
  const navigate = useNavigate();
  const { key } = useLocation();
  const [turn, setTurn] = useState(0);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- a new turn is a new draft at the same place
  const draft = useMemo(() => new DraftAt("take-in"), [turn, key]);
  return (
    <Page>
      <Drafting.Provider value={draft}>
        <TakeInForm
          key={`${turn} ${key}`}
          start={null}
          title={t("counter_desk.take_in")}
          action={t("counter_desk.take_it_in_give_it_a_tag")}
          onWrite={async (written, writeId, label_is_right) => {
            const answer = answerOf(
              api.POST("/api/batteries", {
                params: { ...writeHeader(writeId), query: label_is_right ? { label_is_right } : {} },
                body: written,
              }),
            );
            const view = await answer.catch((error: unknown) => {
              if (!isUnanswered(error)) throw error;
              keepTakeIn(written, writeId, label_is_right, { label: draft.get("label"), story: draft.get("story") }); // nobody gives it a tag now: the next one can be written in
              return null;
            });
            if (!view) {
              draft.clear();
              return setTurn(turn + 1);
            }
            draft.clear();
            await learn(view);
            await navigate(`/check/${view.tag}`);
          }}
          onThrowAway={() => {
            draft.clear();
            setTurn(turn + 1);
          }}
        />
      </Drafting.Provider>
    </Page>
  );
}
