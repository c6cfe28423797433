/** When a battery was promised, said at take-in; and at once whether that can be kept, with the earliest that can. */
import { useContext } from "react";
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { earliest } from "../../api/queries";
import { nowMs } from "../../kit/clock";
import { Button } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { OpenWord, WordChoices } from "../../kit/Spoken";
import { useSettled } from "../../kit/useSettled";
import { clockOf, clockWords, dayNumber } from "../../kit/words";
import type { Writing } from "./takeIn";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

const OneTime = styled.div`
  width: 170px;
`;

const DAYS = {
  none: t("promised.no_promise"),
  "0": t("screens.today"),
  "1": t("screens.tomorrow"),
  "2": t("screens.in_two_days"),
} as const;
const WAITS = { no: t("promised.comes_back"), yes: t("promised.waits_here") } as const;

const Said = styled.p<{ $broken: boolean }>`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  font-size: 16px;
  line-height: 1.25;
  color: ${({ $broken }) => ($broken ? "var(--failed)" : "var(--soft)")};
  font-weight: ${({ $broken }) => ($broken ? 650 : 400)};
`;
const Choices = styled.div`
  display: grid;
  gap: 8px;
`;

export function promiseWords({ waits, promiseDay, promiseTime }: Writing["story"]): string {
  const who = waits ? t("promised.waits_here_2") : "";
  if (!promiseDay || promiseDay === "none") return waits ? t("promised.waits_here_3") : t("promised.nothing_promised");
  const clock = clockOf(promiseTime ?? "");
  const at = clock
    ? `${String(clock.hour).padStart(2, "0")}:${String(clock.minute).padStart(2, "0")}`
    : t("promised.a_time_of_day");
  return t("promised.ready_at", { who, promise_day: small(DAYS[promiseDay]), at });
}

export function PromiseChoices({ form: { story, tell, wrong } }: { form: Writing }) {
  const open = useContext(OpenWord);
  const day = story.promiseDay ?? "none";
  if (open.name !== "promised_at" && !wrong("promised_at")) return null;
  return (
    <Choices>
      <WordChoices
        name="promised_at"
        label={t("screens.when_it_was_promised")}
        value={day}
        words={DAYS}
        stays
        onChange={(promiseDay) => tell({ promiseDay, promiseTime: story.promiseTime || "17:00" })}
      />
      {day !== "none" && (
        <OneTime>
          <Entry
            label={t("screens.ready_at")}
            value={story.promiseTime ?? ""}
            onChange={(promiseTime) => tell({ promiseTime })}
            numeric={false}
            name="promised_at"
            placeholder="17:00"
          />
        </OneTime>
      )}
      <WordChoices
        name="promised_at"
        label={t("promised.whether_somebody_waits")}
        value={story.waits ? "yes" : "no"}
        words={WAITS}
        stays
        onChange={(answer) => tell({ waits: answer === "yes" })}
      />
    </Choices>
  );
}

const SETTLES_MS = 400;
const ROUND_MS = 15 * 60_000;
/** While the rest is written the rack's first free moment moves on: what is offered must still hold then. */
const WRITING_MS = 5 * 60_000;

/** Whether what is promised can be kept. */
export function PromiseSaid({ form: { now, story, tell } }: { form: Writing }) {
  const promised = now.promised_at ?? null;
  const asks = promised !== null || now.waits === true;
  const body = useSettled({ take_in: now, promised_at: promised, waits: now.waits ?? false }, SETTLES_MS);
  const { data: found } = useQuery(earliest(body, asks));
  if (!asks || !found) return null;
  const ready = found.ready_at ? Math.ceil((Date.parse(found.ready_at) + WRITING_MS) / ROUND_MS) * ROUND_MS : null;
  const days = ready === null ? null : dayApart(ready);
  const time = ready === null ? "" : clockWords(new Date(ready).toISOString(), new Date(ready));
  return (
    <Said role="status" $broken={!found.kept}>
      {found.words}
      {!found.kept && ready !== null && days !== null && (
        <Button
          $tone="copper"
          onPress={() => tell({ ...story, promiseDay: String(days) as "0" | "1" | "2", promiseTime: time })}
        >
          {t("promised.promise_instead", {
            to_isostring: clockWords(new Date(ready).toISOString(), new Date(nowMs())),
          })}
        </Button>
      )}
    </Said>
  );
}

/** Days from today in the store; null where it lies further off than can be promised here. */
function dayApart(moment: number): number | null {
  const days = dayNumber(new Date(moment)) - dayNumber(new Date(nowMs()));
  return days >= 0 && days <= 2 ? days : null;
}
