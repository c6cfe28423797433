/** Lists in and out: a file is sent, its columns confirmed, its rows looked at; all of it is kept, or nothing. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Button as AriaButton, FileTrigger, Link } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { askAgain, put } from "../../api/live";
import { imports, importOf } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Choice, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { dayOf, mayLead, timeOf } from "../../kit/words";
import { ImportRun } from "./ImportRun";
import { KINDS, STATES } from "./importWords";
import { Column, Columns, Fault, Heads, Line } from "./parts";
import { t } from "../../language/t";

const OneList = styled(Line)`
  grid-template-columns: minmax(0, 1fr);
`;
const FileName = styled.b`
  overflow-wrap: anywhere;
`;

const Go = styled(Link)`
  ${touchLink}
`;
const Out = styled.a`
  ${touchLink}
`;

export function ImportDesk({ who }: { who: Schema["Me"] }) {
  const isLead = mayLead(who);
  const { data: found } = useQuery({ ...imports, enabled: isLead });
  const [kind, setKind] = useState<Schema["ImportView"]["kind"]>("items");
  const [picked, setPicked] = useState<number | null>(null);
  const writeId = useRef(newId());
  const send = useMutation({
    mutationFn: async (file: File) =>
      answerOf(
        api.POST("/api/imports", {
          params: { ...writeHeader(writeId.current), query: { kind, name: file.name } },
          body: (await file.arrayBuffer()) as unknown as string,
          bodySerializer: (body) => body as unknown as ArrayBuffer,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      ),
    onSuccess: (run) => {
      writeId.current = newId();
      put(importOf(run.id, 0).queryKey, run);
      setPicked(run.id);
      void askAgain(imports.queryKey);
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status < 500) writeId.current = newId();
    },
  });
  if (!isLead)
    return (
      <Page>
        <Empty>
          <h1>{t("import_desk.lists_are_brought_in_by_a_lead")}</h1>
          <p>{t("import_desk.ask_one_to_sign_in_here")}</p>
        </Empty>
      </Page>
    );
  const wrong = send.error instanceof ApiProblem ? (send.error.of("file") ?? send.error.message) : send.error?.message;
  return (
    <Columns style={{ gridTemplateColumns: picked === null ? undefined : "300px minmax(0, 1fr)" }}>
      <Column aria-label={t("import_desk.lists")}>
        <Heads>
          <h1>{t("import_desk.lists_in_and_out")}</h1>
          <Go href="/goods">{t("import_desk.to_the_goods")}</Go>
        </Heads>
        <Choice label={t("import_desk.what_is_in_the_file")} value={kind} words={KINDS} onChange={setKind} />
        <div>
          <FileTrigger
            acceptedFileTypes={[".csv", ".txt", ".tsv", ".xlsx"]}
            onSelect={(files) => {
              const file = files?.[0];
              if (file) send.mutate(file);
            }}
          >
            <Button $tone="strong" isDisabled={send.isPending}>
              {send.isPending ? t("import_desk.sending") : t("import_desk.pick_a_csv_or_xlsx_file")}
            </Button>
          </FileTrigger>
        </div>
        {wrong && <Fault role="alert">{wrong}</Fault>}
        <Out href={linkTo("/api/goods/package.zip")} download>
          {t("import_desk.all_goods_out_as_a_data_package")}
        </Out>
        <h2>{t("import_desk.brought_in_before")}</h2>
        <div>
          {found?.map((one) => (
            <OneList as={AriaButton} key={one.id} aria-pressed={one.id === picked} onPress={() => setPicked(one.id)}>
              <FileName>{one.file_name || KINDS[one.kind]}</FileName>
              <small>
                {KINDS[one.kind]}, {dayOf(one.sent_at)} {timeOf(one.sent_at)}: {STATES[one.state]}
              </small>
            </OneList>
          ))}
          {found?.length === 0 && <Soft>{t("import_desk.nothing_yet")}</Soft>}
        </div>
      </Column>
      <Column aria-label={t("import_desk.one_list")}>
        {picked === null ? (
          <Soft>{t("import_desk.the_first_row_names_the_columns_how_each")}</Soft>
        ) : (
          <ImportRun key={picked} id={picked} onDone={() => setPicked(null)} />
        )}
      </Column>
    </Columns>
  );
}
