/** When somebody is in: the rack clamps on, takes off and tests only then. A lead says so. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, writeHeader } from "../../api/client";
import { put } from "../../api/live";
import { rack } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { ClosedDays, type Shut } from "./ClosedDays";
import { dayOfWords, HOURS_FAULT, hoursSaid, type Hours } from "./hours";
import { t } from "../../language/t";

const AtStart = styled(Button)`
  justify-self: start;
`;

const DAYS = [
  t("hours_form.monday"),
  t("hours_form.tuesday"),
  t("hours_form.wednesday"),
  t("hours_form.thursday"),
  t("hours_form.friday"),
  t("screens.saturday"),
  t("screens.sunday"),
];

const Sheet = styled(Form)`
  display: grid;
  gap: 8px;
`;
const Day = styled.div`
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 12px;
  align-items: center;
`;
const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;

export function HoursForm({ mayChange }: { mayChange: boolean }) {
  const { data: found } = useQuery(rack);
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [closed, setClosed] = useState<Shut[] | null>(null);
  const writeId = useRef(newId());
  const write = useMutation({
    mutationFn: (hours: Hours) =>
      answerOf(api.PUT("/api/rack/hours", { params: writeHeader(writeId.current), body: hours })),
    onSuccess: (answer) => {
      writeId.current = newId();
      setTyped({});
      setClosed(null);
      put(rack.queryKey, answer);
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status < 500) writeId.current = newId();
    },
  });
  if (!found) return null;
  const days = DAYS.map((_, index) => typed[index] ?? hoursSaid(found.opening_hours.days[index] ?? null));
  const read = days.map(dayOfWords);
  const shut = closed ?? found.opening_hours.closed ?? [];
  const problem = write.error instanceof ApiProblem ? write.error : null;
  return (
    <Sheet
      aria-label={t("screens.opening_hours")}
      onSubmit={(event) => {
        event.preventDefault();
        if (read.every((day) => day !== undefined)) write.mutate({ days: read as Hours["days"], closed: shut });
      }}
    >
      <h2>{t("screens.opening_hours")}</h2>
      <Soft>{t("hours_form.the_rack_clamps_on_takes_off_and_tests")}</Soft>
      {DAYS.map((name, index) => (
        <Day key={name}>
          <b>{name}</b>
          {mayChange ? (
            <Entry
              label=""
              aria={t("hours_form.open_from_and_until", { name })}
              value={days[index] ?? ""}
              onChange={(text) => setTyped({ ...typed, [index]: text })}
              numeric={false}
              placeholder={t("screens.closed")}
              name={`day-${index}`}
              problem={
                read[index] === undefined
                  ? HOURS_FAULT
                  : problem?.errors.find(({ path }) => path.startsWith(`days[${index}]`))?.message
              }
            />
          ) : (
            <span>{days[index] || t("screens.closed")}</span>
          )}
        </Day>
      ))}
      <ClosedDays shut={shut} mayChange={mayChange} onChange={setClosed} />
      {write.error && !problem?.errors.some(({ path }) => path.startsWith("days[")) && (
        <Fault role="alert">{problem?.errors[0]?.message ?? write.error.message}</Fault>
      )}
      {mayChange ? (
        <AtStart
          type="submit"
          $tone="strong"
          isDisabled={
            write.isPending || (Object.keys(typed).length === 0 && closed === null) || read.includes(undefined)
          }
        >
          {t("hours_form.save_the_hours")}
        </AtStart>
      ) : (
        <Soft>{t("hours_form.only_a_lead_changes_them")}</Soft>
      )}
    </Sheet>
  );
}
