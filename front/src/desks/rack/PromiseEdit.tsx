/** When a battery is promised, and how it is treated until then. Folded until it is asked for. */
import { useState } from "react";
import { nowMs } from "../../kit/clock";
import { Button, Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { clockOf, clockWords, dayNumber, momentIn, timeOf } from "../../kit/words";
import type { Schema } from "../../api/client";
import { Acts, Pair } from "./Card";
import { t } from "../../language/t";

const DAYS = { "0": t("Today"), "1": t("Tomorrow"), "2": t("In two days") } as const;
const PRIORITIES: Record<Schema["Promised"]["priority"], string> = {
  ordinary: t("As it comes"),
  waiting: t("Somebody waits"),
  promised: t("Promised"),
  warranty: t("Warranty"),
  stock: t("Stock, when there is room"),
};

interface Props {
  promisedAt: string | null;
  priority: string;
  busy: boolean;
  fault: string | undefined;
  onPromise: (promisedAt: string | null, priority: Schema["Promised"]["priority"]) => void;
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
          {promisedAt ? t("Promised {0}", clockWords(promisedAt, now)) : t("Nothing promised")} ▾
        </Button>
      </Acts>
    );
  return (
    <>
      <Choice label={t("Promised for")} value={day} words={DAYS} onChange={setDay} />
      <Pair>
        <Entry
          label={t("Ready at")}
          value={time}
          onChange={setTime}
          numeric={false}
          name="promised_at"
          problem={clock ? fault : t("Enter a time of day, such as 17:00")}
        />
      </Pair>
      <Choice label={t("Treated as")} value={treated} words={PRIORITIES} onChange={setTreated} />
      <Acts>
        <Button
          type="button"
          $tone="copper"
          isDisabled={busy || clock === null}
          onPress={() => clock && onPromise(momentIn(Number(day), clock), treated)}
        >
          {t("Promise it")}
        </Button>
        <Button type="button" isDisabled={busy} onPress={() => onPromise(null, treated)}>
          {promisedAt ? t("Take the promise back") : t("Only how it is treated")}
        </Button>
      </Acts>
    </>
  );
}
