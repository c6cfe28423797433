/** What people say beside the judgement: an outcome said otherwise with its reason, a remark, the customer's words. Folded. */
import { useState } from "react";
import { TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { askAgain, put } from "../../api/live";
import { battery } from "../../api/queries";
import { EntryForm, FaultOf } from "../../kit/EntryForm";
import { Choice, Soft, StyledLabel } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { dayOf, OUTCOMES, timeOf } from "../../kit/words";
import { InlineMark } from "../../vane/outcomes";
import { useWrite } from "../goods/useWrite";
import { Fold } from "../../kit/Fold";
import { t } from "../../language/t";

type What = Schema["Say"]["what"];
const WHAT: Record<What, string> = {
  remark: t("own_word.a_remark"),
  story: t("own_word.the_customers_words"),
  own_call: t("own_word.i_say_otherwise"),
};
const Lines = styled.div`
  display: grid;
  gap: 2px;
  font-size: 16px;
  line-height: 1.25;
`;
const Words = styled(TextArea)`
  width: 100%;
  min-height: 62px;
  padding: 6px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
`;
/** The own call as a line: it stands beside the judgement, which stays. */
export function OwnCall({ call }: { call: Schema["OwnCallView"] }) {
  return (
    <span data-testid="own-call">
      <InlineMark outcome={call.outcome} />{" "}
      {t("own_word.says_otherwise", { who: call.who, outcome: OUTCOMES[call.outcome], reason: call.reason })}
      {!call.still_judged && <Soft> {t("own_word.of_what_was_judged_then", { judged: call.judged })}</Soft>}
    </span>
  );
}

interface Props {
  view: Schema["CheckView"];
  isSaying: boolean;
  onDone: () => void;
}

export function OwnWord({ view, isSaying, onDone }: Props) {
  const { own_call: call, remarks } = view;
  if (!call && remarks.length === 0 && !isSaying) return null;
  return (
    <Lines>
      {call && <OwnCall call={call} />}
      {remarks.length > 0 && (
        <Fold>
          <summary>{t("own_word.remarks", { count: remarks.length })}</summary>
          {remarks.map((one) => (
            <p key={one.at}>
              {one.what === "story" ? t("own_word.they_say", { text: one.text }) : one.text}{" "}
              <Soft>
                {one.who}, {dayOf(one.at)} {timeOf(one.at)}
              </Soft>
            </p>
          ))}
        </Fold>
      )}
      {isSaying && <SayForm view={view} onLeave={onDone} />}
    </Lines>
  );
}

function SayForm({ view, onLeave }: { view: Schema["CheckView"]; onLeave: () => void }) {
  const [what, setWhat] = useState<What>("remark");
  const [text, setText] = useState("");
  const [outcome, setOutcome] = useState<Schema["Outcome"] | "" | null>(null);
  const write = useWrite(
    (body: Schema["Say"], named) =>
      answerOf(api.POST("/api/batteries/{tag}/said", { params: { ...named, path: { tag: view.tag } }, body })),
    (answer) => {
      put(battery(view.tag).queryKey, answer);
      void askAgain(["life", view.tag]);
      onLeave();
    },
  );
  const options = (Object.keys(OUTCOMES) as Schema["Outcome"][])
    .filter((id) => id !== view.judgement.outcome)
    .map((id) => ({ id: id as string, name: OUTCOMES[id] }));
  const back = view.own_call ? [{ id: "-", name: t("own_word.as_it_is_judged") }] : [];
  return (
    <EntryForm
      label={t("own_word.note_or_say_otherwise")}
      write={write}
      ready={text.trim() !== "" && (what !== "own_call" || outcome !== null)}
      onSend={() => write.write({ what, text, outcome: what === "own_call" && outcome ? outcome : null })}
      keep={t("screens.keep")}
      onLeave={onLeave}
    >
      <Choice label={t("own_word.what")} hideLabel value={what} words={WHAT} onChange={setWhat} />
      {what === "own_call" && (
        <Pick
          label={t("own_word.it_is")}
          value={outcome === "" ? "-" : outcome}
          onChange={(id) => setOutcome(id === "-" ? "" : ((id as Schema["Outcome"] | null) ?? null))}
          options={[...back, ...options]}
        />
      )}
      <FaultOf path="outcome" />
      <TextField value={text} onChange={setText} name="text" maxLength={600}>
        <StyledLabel>{what === "own_call" ? t("own_word.why") : t("own_word.in_your_words")}</StyledLabel>
        <Words rows={2} />
      </TextField>
      <FaultOf path="text" />
    </EntryForm>
  );
}
