/** What comes from other stores of the house, and pieces and customers that go there; batteries that go stand on the shelf. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import type { Schema } from "../api/client";
import { stores } from "../api/queries";
import { Button, Soft } from "../kit/parts";
import { dayOf, timeOf } from "../kit/words";
import { useSettle } from "../stores/sending";
import { NameOfPlace, Place, Sheet, Standing } from "./parts";
import { t } from "../language/t";

const Row = styled.li`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  min-height: 52px;
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
  list-style: none;
  span {
    line-height: 1.25;
  }
  button {
    flex: none;
  }
`;
const Van = styled.li`
  width: 62px;
  align-self: flex-end;
  svg {
    display: block;
  }
`;

/** What of the shelf's width it takes [px]. */
export function useComingWidth(width: number): number {
  const { data } = useQuery(stores);
  if (!data?.on_the_way.some(hasNoPlace)) return 0;
  return width < SHORT_UNDER ? SHORT_WIDTH : WIDTH;
}

const WIDTH = 156;
/** Under this the name is one word [px]. */
const SHORT_UNDER = 960;
const SHORT_WIDTH = 100;
/** A battery that goes stands on the shelf; everything else that travels has no place of its own there. */
const hasNoPlace = (row: Row_) => row.coming || row.kind !== "battery";

export function Coming({ brief, width }: { brief: boolean; width: number }) {
  const { data } = useQuery(stores);
  const [open, setOpen] = useState(false);
  const rows = (data?.on_the_way ?? []).filter(hasNoPlace);
  if (!rows.length && !open) return null;
  const words = t("coming.between_stores");
  return (
    <Place aria-label={`${words}, ${rows.length}`}>
      {!brief && (
        <Standing>
          <Van>
            <Crate count={rows.length} />
          </Van>
        </Standing>
      )}
      <DialogTrigger isOpen={open} onOpenChange={setOpen}>
        <NameOfPlace>
          {width < SHORT_UNDER && !brief ? t("coming.stores") : words} <b>{rows.length}</b>
          <span className="quiet">{t("screens.show_all")}</span>
        </NameOfPlace>
        <Sheet placement="top end">
          <Dialog aria-label={t("coming.between_the_stores")}>
            <Between rows={rows} lately={data?.lately ?? []} onClose={() => setOpen(false)} />
          </Dialog>
        </Sheet>
      </DialogTrigger>
    </Place>
  );
}

type Row_ = Schema["TransferView"];

function Between({ rows, lately, onClose }: { rows: Row_[]; lately: Row_[]; onClose: () => void }) {
  const navigate = useNavigate();
  const { arrived, calledBack, fault } = useSettle((tag) => {
    if (tag === null) return;
    onClose();
    void navigate(`/check/${tag}`);
  });
  return (
    <>
      <h2>{t("coming.between_the_stores")}</h2>
      <ul>
        {rows.map((row) => (
          <Row key={row.id}>
            <span>
              <b>{nameOf(row)}</b>{" "}
              {row.coming ? t("coming.from", { from_name: row.from_name }) : t("coming.to", { to_name: row.to_name })}
              <br />
              <Soft>
                {dayOf(row.sent_at)}, {timeOf(row.sent_at)}, {row.sent_by}
                {row.note && `: ${row.note}`}
              </Soft>
            </span>
            {row.coming ? (
              <Button
                $tone="copper"
                isDisabled={arrived.pending}
                onPress={() => arrived.write(row.id)}
                aria-label={t("coming.it_is_here", { row: nameOf(row) })}
              >
                {t("coming.it_is_here_2")}
              </Button>
            ) : (
              <Button
                isDisabled={calledBack.pending}
                onPress={() => calledBack.write(row.id)}
                aria-label={t("coming.call_it_back", { row: nameOf(row) })}
              >
                {t("screens.call_it_back")}
              </Button>
            )}
          </Row>
        ))}
        {rows.length === 0 && <Row>{t("coming.nothing_is_on_its_way")}</Row>}
      </ul>
      {fault && <p role="alert">{fault}</p>}
      {lately.length > 0 && (
        <p>
          <Soft>{t("coming.lately", { lately: lately.slice(0, LATELY).map(settled).join("; ") })}</Soft>
        </p>
      )}
    </>
  );
}

const LATELY = 3;

const nameOf = (row: Row_) =>
  [row.kind === "customer" ? "" : row.subject, row.tag === null ? "" : t("coming.tag", { tag: row.tag }), row.whose]
    .filter(Boolean)
    .join(", ") || row.subject;

function settled(row: Row_): string {
  if (row.state === "called_back") return t("coming.called_back", { row: nameOf(row) });
  const there = row.arrived_tag === null ? "" : t("coming.tag_there", { arrived_tag: row.arrived_tag });
  return row.coming
    ? t("coming.arrived_here", { row: nameOf(row) })
    : t("coming.arrived_at", { row: nameOf(row), to_name: row.to_name, there });
}

/** A crate as the van leaves it, with how many there are. */
function Crate({ count }: { count: number }) {
  return (
    <svg width="58" height="58" viewBox="0 0 58 58" aria-hidden fill="none" stroke="var(--ink)" strokeWidth="1.8">
      <path d="M6 26h46v30H6zM6 36h46M6 46h46M14 26v30M44 26v30" />
      <text x="29" y="20" textAnchor="middle" fill="var(--ink)" stroke="none" fontSize="22" fontWeight="780">
        {count}
      </text>
    </svg>
  );
}
