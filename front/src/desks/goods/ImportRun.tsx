/** One file on its way in: its columns, its rows as they are read, every refused row and why, progress and stop. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ProgressBar } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { askAgain } from "../../api/live";
import { imports, importOf } from "../../api/queries";
import { Button, Choice, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Pick } from "../../kit/Pick";
import { KINDS, STATES } from "./importWords";
import { ReadAs, Refused, Sample } from "./ImportRows";
import { Acts, Fault, Figures } from "./parts";
import { useWrite } from "./useWrite";
import { locale } from "../../language/catalogue";
import { t } from "../../language/t";

const ActsBelow = styled(Acts)`
  margin-top: 8px;
`;
const Waiting = styled(Soft)`
  align-self: center;
`;

const Track = styled.div`
  height: 14px;
  border: 1.5px solid var(--ink);
  border-radius: 7px;
  overflow: hidden;
  div {
    height: 100%;
    background: var(--copper);
  }
`;
const Map_ = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 10px;
  align-items: end;
`;
const UNITS = { mm: "mm", cm: "cm", in: "in" } as const;
const SCALES = { CCA: "CCA", EN: "EN", DIN: "DIN", IEC: "IEC" } as const;
const LENGTHS = ["length_mm", "width_mm", "height_mm"];

export function ImportRun({ id, onDone }: { id: number; onDone: () => void }) {
  const [page, setPage] = useState(0);
  const { data: run, error } = useQuery(importOf(id, page));
  if (!run && error) return <Fault role="alert">{error.message}</Fault>;
  if (!run) return null;
  return <Run key={`${id} ${run.state}`} run={run} page={page} onPage={setPage} onDone={onDone} />;
}

interface Props {
  run: Schema["ImportView"];
  page: number;
  onPage: (page: number) => void;
  onDone: () => void;
}

function Run({ run, page, onPage, onDone }: Props) {
  const [mapping, setMapping] = useState(run.mapping);
  const [anew, setAnew] = useState(run.state === "sent");
  const [leaveOut, setLeaveOut] = useState<"no" | "yes">("no");
  const params = { path: { run_id: run.id } };
  const after = () => void askAgain(imports.queryKey);
  const check = useWrite(
    (body: Schema["Confirm"], name) =>
      answerOf(api.POST("/api/imports/{run_id}/check", { params: { ...name, ...params }, body })),
    after,
  );
  const keep = useWrite(
    (body: Schema["Keep"], name) =>
      answerOf(api.POST("/api/imports/{run_id}/keep", { params: { ...name, ...params }, body })),
    after,
  );
  const stop = useWrite(
    (_: null, name) => answerOf(api.POST("/api/imports/{run_id}/stop", { params: { ...name, ...params }, body: {} })),
    after,
  );
  const atWork = run.state === "checking" || run.state === "keeping";
  const readable = run.columns.length > 0;
  const missing = run.fields.filter((field) => field.needed && !mapping.columns[field.name] && !(field.name === "source" && mapping.source)); // prettier-ignore
  const columns = run.columns.filter(Boolean);
  return (
    <>
      <h2>
        {run.file_name || KINDS[run.kind]}: {STATES[run.state]}
      </h2>
      {run.problem && <Fault role="alert">{run.problem}</Fault>}
      {run.state === "reading" && (
        <ProgressBar aria-label={t("import_run.how_far")} isIndeterminate>
          <p>{t("import_run.its_heading_and_first_rows_are_read")}</p>
        </ProgressBar>
      )}
      {atWork && (
        <ProgressBar aria-label={t("import_run.how_far")} value={run.rows_done} maxValue={Math.max(run.rows_total, 1)}>
          {({ percentage }) => (
            <>
              <p>
                {t("import_run.of_about_rows", {
                  rows_done: run.rows_done.toLocaleString(locale()),
                  rows_total: run.rows_total.toLocaleString(locale()),
                })}
              </p>
              <Track>
                <div style={{ width: `${percentage ?? 0}%` }} />
              </Track>
              <ActsBelow>
                <Button onPress={() => stop.write(null)} isDisabled={stop.pending}>
                  {t("import_run.stop_nothing_is_kept")}
                </Button>
              </ActsBelow>
            </>
          )}
        </ProgressBar>
      )}
      {anew && !atWork && (
        <>
          <p>
            {run.remembered
              ? t("import_run.read_as_the_last_file_with_this_heading")
              : t("import_run.which_column_is_what_those_with_a_star")}
          </p>
          <Map_>
            {run.fields.map((field) => (
              <Pick
                key={field.name}
                label={`${field.label}${field.needed ? " *" : ""}`}
                value={mapping.columns[field.name] ?? null}
                name={`column ${field.name}`}
                placeholder={t("import_run.no_column")}
                options={columns.map((column) => ({ id: column, name: column, note: sampleOf(run, column) }))}
                onChange={(column) =>
                  setMapping((before) => {
                    const rest = Object.fromEntries(
                      Object.entries(before.columns).filter(([name]) => name !== field.name),
                    );
                    return { ...before, columns: column ? { ...rest, [field.name]: column } : rest };
                  })
                }
              />
            ))}
          </Map_>
          <Figures>
            {LENGTHS.some((name) => mapping.columns[name]) && (
              <Choice
                label={t("import_run.lengths_are_in")}
                value={(mapping.length_unit ?? "mm") as keyof typeof UNITS}
                words={UNITS}
                onChange={(length_unit) => setMapping((before) => ({ ...before, length_unit }))}
              />
            )}
            {run.fields.some((field) => field.name === "rated_scale") && !mapping.columns["rated_scale"] && (
              <Choice
                label={t("import_run.ratings_are")}
                value={(mapping.rated_scale ?? "CCA") as keyof typeof SCALES}
                words={SCALES}
                onChange={(rated_scale) => setMapping((before) => ({ ...before, rated_scale }))}
              />
            )}
            {run.fields.some((field) => field.name === "source") && !mapping.columns["source"] && (
              <Entry
                label={t("import_run.where_the_list_is_from")}
                value={mapping.source ?? ""}
                onChange={(source) => setMapping((before) => ({ ...before, source }))}
                numeric={false}
                name="source"
              />
            )}
          </Figures>
          {check.beside() && <Fault role="alert">{check.beside()}</Fault>}
          <Acts>
            <Button
              $tone="strong"
              isDisabled={missing.length > 0 || check.pending}
              onPress={() => check.write({ mapping })}
            >
              {t("import_run.look_at_every_row")}
            </Button>
            {missing.length > 0 && (
              <Waiting>
                {t("import_run.still_without", { missing: missing.map((field) => field.label).join(", ") })}
              </Waiting>
            )}
          </Acts>
        </>
      )}
      {run.state === "checked" && (
        <>
          <p>
            <b>{run.rows_good.toLocaleString(locale())}</b> {t("import_run.rows_can_be_kept")}{" "}
            <b style={{ color: run.rows_refused ? "var(--failed)" : "inherit" }}>
              {run.rows_refused.toLocaleString(locale())}
            </b>{" "}
            {t("import_run.are_refused")}
          </p>
          {run.rows_refused > 0 && (
            <Choice
              label={t("import_run.the_refused_rows")}
              value={leaveOut}
              words={{ no: t("import_run.mend_the_file_first"), yes: t("import_run.stay_out_keep_the_others") }}
              onChange={setLeaveOut}
            />
          )}
          {keep.beside() && <Fault role="alert">{keep.beside()}</Fault>}
          <Acts>
            <Button
              $tone="strong"
              isDisabled={keep.pending || run.rows_good === 0 || (run.rows_refused > 0 && leaveOut === "no")}
              onPress={() => keep.write({ leave_out: leaveOut === "yes" })}
            >
              {t("import_run.keep_rows", { count: run.rows_good })}
            </Button>
            {!anew && <Button onPress={() => setAnew(true)}>{t("import_run.read_the_columns_differently")}</Button>}
            <Button onPress={onDone}>{t("import_run.not_now")}</Button>
          </Acts>
        </>
      )}
      {run.state === "failed" && !readable && <p>{t("import_run.nothing_of_it_was_kept_mend_it_and_send_it")}</p>}
      {(run.state === "failed" || run.state === "stopped") && readable && !anew && (
        <Acts>
          <Button onPress={() => setAnew(true)}>{t("import_run.try_again")}</Button>
        </Acts>
      )}
      <Refused run={run} page={page} onPage={onPage} />
      {run.read_as.length > 0 && run.state === "checked" && <ReadAs run={run} />}
      {run.state === "sent" && <Sample run={run} />}
    </>
  );
}

const sampleOf = (run: Schema["ImportView"], column: string) => run.sample[0]?.[run.columns.indexOf(column)] ?? "";
