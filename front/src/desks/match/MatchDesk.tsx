/** Match: what is known on the left, what is asked and what the house has in the middle, old and new on the right. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { ApiProblem, type Schema } from "../../api/client";
import { codeRead, matchKnown } from "../../api/queries";
import { Empty, Page, Soft } from "../../kit/parts";
import { NARROW, UPRIGHT } from "../../kit/theme";
import { useSettled } from "../../kit/useSettled";
import { Candidates } from "./Candidates";
import { Chosen } from "./Chosen";
import { askOf, asksAnything, useKnown } from "./known";
import { KnownColumn } from "./KnownColumn";
import { Sources } from "./Sources";
import { Variants } from "./Variants";
import { t } from "../../language/t";
import { Fault } from "../../kit/formParts";

const Columns = styled(Page)`
  grid-template-columns: 300px minmax(0, 1fr) 330px;
  ${NARROW} {
    grid-template-columns: minmax(0, 0.8fr) minmax(0, 1.2fr);
    overflow: auto;
    align-content: start;
  }
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Column = styled.section`
  position: relative;
  padding: 14px 18px;
  overflow: auto;
  min-width: 0;
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
  display: flex;
  flex-direction: column;
  gap: 12px;
  & > * {
    flex: none;
  }
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 22px;
    line-height: 1.15;
  }
  h2 {
    font-size: 16px;
    color: var(--soft);
    font-weight: 500;
  }
`;

const PAUSE_MS = 220;
/** How good a list is that a code was read by. */
const FROM: Record<string, string> = { memory: t("match_desk.from_memory_look_at_the_case") };

interface Props {
  tag: number | null;
  store: Schema["StoreView"];
}

export function MatchDesk({ tag, store }: Props) {
  const { known, tell, afresh } = useKnown(tag);
  const code = useSettled(known.code, PAUSE_MS);
  const now = askOf(known, code, tag, store);
  const ask = useSettled(JSON.stringify(now), PAUSE_MS / 2);
  const settledAsk = JSON.parse(ask) as Schema["AskMatch"];
  const asks = asksAnything(settledAsk);
  const { data, error, isPending, isPlaceholderData } = useQuery({ ...matchKnown(settledAsk), enabled: asks });
  const says = useQuery(codeRead(code));
  const [picked, setPicked] = useState<number | null>(null);
  // What is being sold stays in front with all that was typed, though the last piece goes and better ones push it off the list.
  const [sold, setSold] = useState<{ ask: string; match: Schema["Match"] } | null>(null);

  const problem = error instanceof ApiProblem ? error : null;
  const answer = asks ? data : undefined;
  const current =
    answer?.matches.find((one) => one.candidate.item_id === picked) ??
    (sold?.ask === ask && sold.match.candidate.item_id === picked ? sold.match : answer?.matches[0]);
  const reading = asks && isPending && !error;
  const vehicleId = known.vehicleId;
  // Until it is known what the battery asks for, neither a form nor a claim about it may stand here.
  const settled = tag === null || answer !== undefined || error !== null;
  const sell = (match: Schema["Match"]) => {
    setPicked(match.candidate.item_id);
    // of what is asked now alone: for another car it says nothing
    setSold(isPlaceholderData ? null : { ask, match });
  };
  const choosing = known.cars.length > 1 && vehicleId === null;
  return (
    <Columns>
      <Column aria-label={t("match_desk.what_is_known")}>
        <h1>{tag === null ? t("match_desk.what_fits") : t("match_desk.replaces", { tag })}</h1>
        {answer?.requirement && !choosing && (
          <h2>{t("match_desk.known_from", { source: answer.requirement.source || t("match_desk.what_is_typed") })}</h2>
        )}
        {answer?.asked_as && <Soft>{answer.asked_as}</Soft>}
        {settled && (
          <KnownColumn
            key={tag ?? "none"}
            tag={tag}
            known={known}
            tell={tell}
            afresh={afresh}
            found={answer}
            fault={(path) => problem?.of(path)}
            codeSays={known.code.trim() && says.data ? `${says.data.says}${FROM[says.data.standing] ?? ""}` : undefined}
            store={store}
          />
        )}
      </Column>
      <Column aria-label={t("match_desk.candidates")} aria-busy={isPlaceholderData}>
        {known.cars.length > 0 && (
          <Variants cars={known.cars} picked={vehicleId} onPick={(id) => tell({ vehicleId: id, typed: null })} />
        )}
        {error && !problem?.errors.length && <Fault role="alert">{error.message}</Fault>}
        {problem?.errors
          .filter((one) => one.path !== "code" && !one.path.startsWith("measured."))
          .map((one) => (
            <Fault key={one.message} role="alert">
              {one.message}
            </Fault>
          ))}
        {reading && <Soft role="status">{t("match_desk.looking_through_the_catalogue")}</Soft>}
        {!answer?.requirement && !error && !reading && !choosing && (
          <Empty>
            <h2>{t("match_desk.say_what_is_known")}</h2>
            <p>
              {tag === null
                ? t("match_desk.a_car_a_size_or_a_code_or_the_tray_under")
                : t("match_desk.its_label_has_no_size_and_its_car_is_not")}
            </p>
          </Empty>
        )}
        {answer?.requirement && !choosing && (
          <>
            <Sources found={answer} store={store} />
            <Candidates found={answer} ask={settledAsk} current={current} onPick={setPicked} />
          </>
        )}
      </Column>
      <Column aria-label={t("match_desk.old_and_new")}>
        {answer?.requirement && current && !choosing && (
          <Chosen found={answer} current={current} tag={tag} vehicleId={vehicleId} store={store} onSell={sell} />
        )}
      </Column>
    </Columns>
  );
}
