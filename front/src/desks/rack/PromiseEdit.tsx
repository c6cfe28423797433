/** When a battery is promised, and how it is treated until then. Folded until it is asked for. */
import { useState } from "react";
import { nowMs } from "../../kit/clock";
import { Button, Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { clockOf, clockWords, dayNumber, momentIn, timeOf } from "../../kit/words";
import type { Schema } from "../../api/client";
import { Acts, Pair } from "./Card";
import { t } from "../../language/t";

const DAYS = { "0": t("screens.today"), "1": t("screens.tomorrow"), "2": t("screens.in_two_days") } as const;
const PRIORITIES: Record<Schema["Promised"]["priority"], string> = {
  ordinary: t("promise_edit.as_it_comes"),
  waiting: t("promise_edit.somebody_waits"),
  promised: t("promise_edit.promised"),
  warranty: t("screens.warranty"),
  stock: t("promise_edit.stock_when_there_is_room"),
};

interface Props {
  promisedAt: string | null;
  priority: string;
  busy: boolean;
  fault: string | undefined;
  onPromise: (promisedAt: string | null, priority: Schema["Promised"]["priority"], closedIsRight?: boolean) => void;
}

export function PromiseEdit({ promisedAt, priority, busy, fault, onPromise }: Props) {
  const [open, setOpen] = useState(false);
  const now = new Date(nowMs());
  const days = promisedAt ? Math.min(Math.max(dayNumber(new Date(promisedAt)) - dayNumber(now), 0), 2) : 0;
  const [day, setDay] = useState<keyof typeof DAYS>(String(days) as keyof typeof DAYS);
  const [time, setTime] = useState(promisedAt ? timeOf(promisedAt) : "17:00");
  const [treated, setTreated] = useState(
    (priority in PRIORITIES ? priority : "ordinary") as Schema["Promised"]["priority"],
  );
  const clock = clockOf(time);
  if (!open)
    return (
      <Acts>
        <Button type="button" onPress={() => setOpen(true)}>
          {promisedAt
            ? t("promise_edit.promised_2", { promised_at: clockWords(promisedAt, now) })
            : t("promise_edit.nothing_promised")}{" "}
          ▾
        </Button>
      </Acts>
    );
  return (
    <>
      <Choice label={t("promise_edit.promised_for")} value={day} words={DAYS} onChange={setDay} />
      <Pair>
        <Entry
          label={t("screens.ready_at")}
          value={time}
          onChange={setTime}
          numeric={false}
          name="promised_at"
          problem={clock ? fault : t("screens.enter_a_time_of_day_such_as_17_00")}
        />
      </Pair>
      <Choice label={t("promise_edit.treated_as")} value={treated} words={PRIORITIES} onChange={setTreated} />
      <Acts>
        <Button
          type="button"
          $tone="copper"
          isDisabled={busy || clock === null}
          onPress={() => clock && onPromise(momentIn(Number(day), clock), treated)}
        >
          {t("promise_edit.promise_it")}
        </Button>
        {fault && clock && (
          <Button
            type="button"
            isDisabled={busy}
            onPress={() => onPromise(momentIn(Number(day), clock), treated, true)}
          >
            {t("promise_edit.it_is_right")}
          </Button>
        )}
        <Button type="button" isDisabled={busy} onPress={() => onPromise(null, treated)}>
          {promisedAt ? t("promise_edit.take_the_promise_back") : t("promise_edit.only_how_it_is_treated")}
        </Button>
      </Acts>
    </>
  );
}
