/** The counter: take a battery in; it is given a tag and goes to its check. */
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { api, asked, named } from "../../api/client";
import { learned } from "../../api/queries";
import { DraftAt, Drafting } from "../../kit/drafts";
import { Page } from "../../kit/parts";
import { TakeInForm } from "./TakeInForm";

export function CounterDesk() {
  const navigate = useNavigate();
  const [turn, setTurn] = useState(0);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- a new turn is a new draft at the same place
  const draft = useMemo(() => new DraftAt("take-in"), [turn]);
  return (
    <Page>
      <Drafting.Provider value={draft}>
        <TakeInForm
          key={turn}
          start={null}
          title="Take in"
          action="Take it in, give it a tag"
          onWrite={async (written, writeId, label_is_right) => {
            const view = await asked(
              api.POST("/api/batteries", {
                params: { ...named(writeId), query: label_is_right ? { label_is_right } : {} },
                body: written,
              }),
            );
            draft.clear();
            await learned(view);
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
