/** What waits to be sent, whose it is, and what was refused with the server's reason: to be gone to, or thrown away. */
import { Button as AriaButton, Dialog, DialogTrigger, Link, Popover } from "react-aria-components";
import styled from "styled-components";
import { useNavigate } from "react-router";
import { DraftAt } from "./drafts";
import { isAway, lastHeard, useLine } from "./line";
import {
  discard,
  LOOK_AGAIN,
  mineOf,
  standByLabel,
  standByTime,
  useSentLate,
  useWaiting,
  useWaitingTakeIns,
  type Waiting,
  type WaitingTakeIn,
} from "./outbox";
import { Button, touchLink } from "./parts";
import { forgetTag, useToTag } from "./toTag";
import { kindWord, timeOf } from "./words";
import { t } from "../language/t";

const Says = styled(AriaButton)`
  min-height: 44px;
  padding: 0 8px;
  border: none;
  background: none;
  color: var(--copper);
  font-weight: 700;
  cursor: pointer;
  &[data-refused="true"] {
    color: var(--failed);
  }
`;
const Sheet = styled(Popover)`
  width: 420px;
  max-height: 70vh;
  overflow: auto;
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 16px 20px;
`;
const One = styled.li`
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  p {
    color: var(--failed);
    font-weight: 600;
  }
`;
const Acts = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin-top: 4px;
  a {
    ${touchLink}
  }
`;
const Away = styled.p`
  padding: 6px 18px;
  background: var(--failed);
  color: var(--on-ink);
  font-weight: 650;
`;

const Back = styled(Away)`
  background: var(--sound);
`;
const ToHang = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  padding: 4px 18px;
  border-bottom: 2px solid var(--copper);
  background: var(--copper-pale);
  b {
    font-size: 22px;
  }
  a {
    ${touchLink}
  }
`;
const readings = (count: number) =>
  count === 1 ? t("waiting_sheet.one_reading_waits") : t("waiting_sheet.readings_wait", { count });

/** A strip across the page while the line is down. */
export function LineStrip() {
  const away = useLine();
  const waits = mineOf(useWaiting()).filter((entry) => !entry.problem).length;
  const untagged = mineOf(useWaitingTakeIns()).filter((entry) => !entry.problem).length;
  const toTag = useToTag();
  const sent = useSentLate();
  const heard = lastHeard();
  if (away)
    return (
      <Away role="status">
        {away}.{" "}
        {heard && isAway() && t("waiting_sheet.the_shelf_and_what_is_shown_are_as_of", { heard: timeOf(heard) })}
        {waits > 0 && t("waiting_sheet.here_to_be_sent", { waits: readings(waits) })}
        {untagged > 0 &&
          t("waiting_sheet.for_a_tag", {
            t: untagged === 1 ? t("waiting_sheet.one_battery_waits") : t("waiting_sheet.batteries_wait", { untagged }),
          })}
      </Away>
    );
  return (
    <div>
      {sent > 0 && (
        <Back role="status">
          {t("waiting_sheet.the_server_is_back_sent_each_once_and_in", {
            t:
              sent === 1
                ? t("waiting_sheet.one_reading_that_waited_was")
                : t("waiting_sheet.readings_that_waited_were", { sent }),
          })}
        </Back>
      )}
      {toTag.map((one) => (
        <ToHang key={one.tag} role="status">
          <span>
            <b>{one.tag}</b>{" "}
            {t("waiting_sheet.is_the_tag_of_hang_it_on", {
              words: one.words || t("waiting_sheet.a_battery_written_in_without_the_line"),
            })}
          </span>
          <Link href={`/check/${one.tag}`}>{t("screens.go_to", { tag: one.tag })}</Link>
          <Button onPress={() => forgetTag(one.tag)}>{t("waiting_sheet.it_hangs")}</Button>
        </ToHang>
      ))}
    </div>
  );
}

/** Why a reading was refused, in one line. */
export const reasonOf = (entry: Waiting) => entry.problem?.errors[0]?.message ?? entry.problem?.message ?? "";

export function WaitingSheet() {
  const all = useWaiting();
  const allTakeIns = useWaitingTakeIns();
  const [mine, takeIns] = [mineOf(all), mineOf(allTakeIns)];
  const refused = [...mine, ...takeIns].filter((entry) => entry.problem).length;
  const unsent = mine.length + takeIns.length - refused;
  const others = all.length + allTakeIns.length - mine.length - takeIns.length;
  const words = [
    refused ? t("waiting_sheet.refused", { refused }) : "",
    unsent ? t("waiting_sheet.not_sent_yet", { unsent }) : "",
    others ? t("waiting_sheet.wait_for_others", { others }) : "",
  ].filter(Boolean);
  return (
    <>
      {words.length > 0 && (
        <DialogTrigger>
          <Says data-refused={refused > 0} aria-live="polite">
            {words.join(", ")}
          </Says>
          <Sheet placement="bottom end">
            <Dialog aria-label={t("waiting_sheet.what_waits_to_be_sent")}>
              <strong>{t("waiting_sheet.what_waits_to_be_sent")}</strong>
              <ul>
                {takeIns.map((entry) => (
                  <MineTakeIn key={entry.id} entry={entry} />
                ))}
                {mine.map((entry) => (
                  <Mine key={entry.id} entry={entry} />
                ))}
                {othersOf([...all, ...allTakeIns], [...mine, ...takeIns]).map((who) => (
                  <One key={who}>{t("waiting_sheet.what_typed_is_sent_when_signs_in_here", { who, who_2: who })}</One>
                ))}
              </ul>
            </Dialog>
          </Sheet>
        </DialogTrigger>
      )}
    </>
  );
}

const othersOf = (all: (Waiting | WaitingTakeIn)[], mine: (Waiting | WaitingTakeIn)[]) => [
  ...new Set(all.filter((entry) => !mine.includes(entry)).map((entry) => entry.who)),
];

function MineTakeIn({ entry }: { entry: WaitingTakeIn }) {
  const navigate = useNavigate();
  const { takeIn, problem } = entry;
  const rating = takeIn.battery?.rating;
  const words = [
    takeIn.customer_name || takeIn.customer_plate,
    takeIn.battery?.line,
    rating && `${rating.amps} ${rating.scale}`,
  ];
  return (
    <One>
      {t("waiting_sheet.taken_in", { words: words.filter(Boolean).join(", ") || t("waiting_sheet.a_battery") })}
      {problem && <p>{t("waiting_sheet.not_kept", { message: problem.errors[0]?.message ?? problem.message })}</p>}
      {problem && (
        <Acts>
          {problem.message === LOOK_AGAIN && (
            <Button onPress={() => standByLabel(entry)}>{t("screens.it_says_so_take_it_as_it_is")}</Button>
          )}
          <Button
            onPress={() => {
              const paper = new DraftAt("take-in");
              for (const [name, value] of Object.entries(entry.typed)) paper.set(name, value);
              discard(entry.id);
              void navigate("/counter");
            }}
          >
            {t("waiting_sheet.mend_it_at_the_counter")}
          </Button>
          <Button onPress={() => discard(entry.id)}>{t("screens.throw_it_away")}</Button>
        </Acts>
      )}
    </One>
  );
}

function Mine({ entry }: { entry: Waiting }) {
  return (
    <One>
      {t("waiting_sheet.of", {
        kind: kindWord(entry.reading.kind ?? "look"),
        tag: entry.tag,
        taken_at: timeOf(entry.reading.taken_at),
      })}
      {entry.problem && <p>{t("screens.not_kept", { entry: reasonOf(entry) })}</p>}
      <Acts>
        <Link href={`/check/${entry.tag}`}>{t("screens.go_to", { tag: entry.tag })}</Link>
        {entry.problem && asksForTime(entry) && (
          <Button onPress={() => standByTime(entry)}>{t("screens.it_was_taken_then")}</Button>
        )}
        {entry.problem && <Button onPress={() => discard(entry.id)}>{t("screens.throw_it_away")}</Button>}
      </Acts>
    </One>
  );
}

/** The server asks whether it was really taken so long ago; a clock that runs ahead is no question. */
export const asksForTime = (entry: Waiting) =>
  entry.problem?.errors.some(({ key }) => key === "check.was_it_really_taken_on_say_so_or_type_it") ?? false;
