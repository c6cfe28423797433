/** The take-in of a battery, to be written anew; the earlier one stays in its records. Two who write at once see both. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { askAgain, learn } from "../../api/live";
import { battery } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { DraftAt, Drafting } from "../../kit/drafts";
import { Empty, Page } from "../../kit/parts";
import { Theirs } from "./Theirs";
import { TakeInForm } from "./TakeInForm";
import type { TakeIn } from "./takeIn";
import { t } from "../../language/t";

const BASED_ON = "basedOn";

export function CorrectDesk({ tag }: { tag: number }) {
  const { data: view, isError } = useQuery(battery(tag));
  if (isError && !view)
    return (
      <Page>
        <Empty>
          <h2>{t("correct_desk.no_battery_here_carries_tag", { tag })}</h2>
        </Empty>
      </Page>
    );
  return view ? <Correcting view={view} /> : <Outline />;
}

const written = (view: Schema["CheckView"]): TakeIn => ({
  battery: view.battery,
  context: view.context,
  sold_on: view.sold_on,
  customer_name: view.customer_name,
  customer_phone: view.customer_phone,
  customer_plate: view.customer_plate,
  promised_at: null,
  waits: false,
  vehicle_id: view.car?.id ?? null,
});

function Correcting({ view }: { view: Schema["CheckView"] }) {
  const { tag } = view;
  const navigate = useNavigate();
  const draft = useMemo(() => new DraftAt(`correct/${tag}`), [tag]);
  const [turn, setTurn] = useState(0);
  // What was there when this was begun; a draft remembers it, and a colleague's change does not move it.
  const [begun] = useState(() => ({ start: written(view), basedOn: draft.get<number>(BASED_ON) ?? view.take_in_id }));
  const [theirs, setTheirs] = useState<{ mine: TakeIn; found: Schema["Theirs"] } | null>(null);

  async function write(mine: TakeIn, writeId: string, label_is_right: boolean, basedOn: number) {
    draft.set(BASED_ON, basedOn);
    try {
      const body = { ...mine, based_on: basedOn };
      const answer = answerOf(
        api.PUT("/api/batteries/{tag}", {
          params: { path: { tag }, ...writeHeader(writeId), query: label_is_right ? { label_is_right } : {} },
          body,
        }),
      );
      const corrected = await answer;
      draft.clear();
      await learn(corrected);
      await navigate(`/check/${tag}`);
    } catch (error) {
      if (error instanceof ApiProblem && error.theirs) setTheirs({ mine, found: error.theirs });
      throw error;
    }
  }

  async function takeTheirs() {
    draft.clear();
    await askAgain(["battery", tag]);
    await navigate(`/check/${tag}`);
  }

  return (
    <Page>
      <Drafting.Provider value={draft}>
        <TakeInForm
          key={turn}
          start={begun.start}
          title={t("correct_desk.correct_the_label_of", { tag })}
          action={theirs ? t("correct_desk.write_mine_over_it") : t("correct_desk.write_the_correction")}
          onWrite={(mine, writeId, sure) => write(mine, writeId, sure, theirs?.found.take_in_id ?? begun.basedOn)}
          onThrowAway={() => {
            draft.clear();
            setTurn(turn + 1);
          }}
        >
          {theirs && <Theirs mine={theirs.mine} found={theirs.found} onTake={() => void takeTheirs()} />}
        </TakeInForm>
      </Drafting.Provider>
    </Page>
  );
}
