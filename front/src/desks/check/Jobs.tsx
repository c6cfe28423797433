/** The jobs: what is to be done, by when, whose it is; touched, how, and what proves that it is done. */
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button } from "../../kit/parts";
import { t } from "../../language/t";
import { Soft } from "../../kit/parts";
import { wordOf } from "../../language/speak";

const List = styled.ul`
  display: grid;
  padding: 4px 0 0;
  border-top: 1.5px solid var(--line);
  font-size: 16px;
  line-height: 1.2;
`;
const Line = styled(AriaButton)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 0 2px;
  border: none;
  background: none;
  text-align: left;
  font-size: 16px;
  line-height: 1.2;
  cursor: pointer;
  small {
    color: var(--soft);
    font-size: 16px;
    text-align: right;
  }
  &[data-hovered],
  &[aria-expanded="true"] {
    background: var(--shelf);
  }
`;
const How = styled.div`
  padding: 2px 4px 8px;
  background: var(--shelf);
  display: grid;
  gap: 6px;
`;

const WHOSE: Record<Schema["Job"]["whose"], string> = {
  house: "",
  owner: t("jobs.the_owner"),
  garage: t("jobs.a_garage"),
};
const PROOF: Record<string, string> = {
  case_leakage: t("jobs.measure_the_case_again"),
  car: t("jobs.enter_what_was_measured"),
};

/** So many stand open; the others are one folded line. */
const IN_SIGHT = 2;

interface Props {
  jobs: Schema["Job"][];
  /** Why the car should be looked at, where no job says it. */
  car: string | null;
  /** The job that is the next step: it alone stands open then. */
  due: string | null;
  onDone: (job: Schema["Job"]) => void;
}

export function Jobs({ jobs, car, due, onDone }: Props) {
  const [open, setOpen] = useState("");
  const [all, setAll] = useState(false);
  if (jobs.length === 0 && !car) return null;
  const next = jobs.filter((job) => job.key === due);
  const isFew = jobs.length <= IN_SIGHT + (next.length > 0 ? 0 : 1);
  const inSight = all || isFew ? jobs : next.length > 0 ? next : jobs.slice(0, IN_SIGHT);
  return (
    <List aria-label={t("jobs.jobs")}>
      {inSight.map((job) => {
        const name = `${job.key} ${job.text}`;
        return (
          <li key={name}>
            <Line aria-expanded={open === name} onPress={() => setOpen(open === name ? "" : name)} data-job={job.key}>
              <span>{job.text}</span>
              <small>{WHOSE[job.whose] || wordOf(job.when)}</small>
            </Line>
            {open === name && (
              <How>
                <span>{job.how}</span>
                {job.proof !== "" && (
                  <Button onPress={() => onDone(job)}>
                    {PROOF[job.proof ?? ""] ?? t("screens.look_again_is_it_done")}
                  </Button>
                )}
              </How>
            )}
          </li>
        );
      })}
      {inSight.length < jobs.length && (
        <li>
          <Line onPress={() => setAll(true)}>
            <Soft>{t("jobs.more_jobs", { count: jobs.length - inSight.length })}</Soft>
            <small>{jobs.some((job) => job.holds) ? "" : t("jobs.none_of_them_holds_it")}</small>
          </Line>
        </li>
      )}
      {car && (
        <li>
          <Line aria-expanded={open === "car"} onPress={() => setOpen(open === "car" ? "" : "car")}>
            <span>{t("jobs.look_at_the_car_too", { car })}</span>
            <small>{t("jobs.the_owner")}</small>
          </Line>
        </li>
      )}
    </List>
  );
}
