/** Everything that was changed of the house: when, who, what stood before and what since. */
import { useInfiniteQuery } from "@tanstack/react-query";
import type { Schema } from "../../api/client";
import { houseChanges } from "../../api/queries";
import { Button, Soft } from "../../kit/parts";
import { dayOf, timeOf } from "../../kit/words";
import { Small } from "../goods/parts";
import { FIELDS, ROLE_NAMES } from "./words";
import { t } from "../../language/t";

const asText = (value: unknown) =>
  value === true ? "yes" : value === false ? "no" : value === null ? "none" : String(value);

/** Only what differs. */
function differs({ before, after, subject }: Schema["HouseChange"]): string[] {
  return Object.entries(after)
    .filter(
      ([name, value]) =>
        before[name] !== value && !(before[name] === undefined && (value === subject || value === true)),
    )
    .map(([name, value]) => {
      const was = before[name];
      const field = FIELDS[name] ?? name;
      const of = (one: unknown) => (name === "role" ? ROLE_NAMES[one as Schema["Role"]] : asText(one));
      return `${field}${field && " "}${was === undefined ? "" : `${of(was)} → `}${of(value)}`;
    });
}

export function Changes() {
  const { data: found, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(houseChanges);
  const rows = found?.pages.flat() ?? [];
  return (
    <>
      <h2>{t("screens.what_was_changed")}</h2>
      <Small aria-label={t("screens.what_was_changed")}>
        {rows.map((row) => (
          <li key={row.id}>
            <b>{row.subject}</b>: {row.what}
            {row.what !== t("changes.set_up") && differs(row).length > 0 && <> ({differs(row).join("; ")})</>}
            <br />
            <Soft>
              {dayOf(row.at)}, {timeOf(row.at)}, {row.who}
            </Soft>
          </li>
        ))}
      </Small>
      {hasNextPage && (
        <div>
          <Button isDisabled={isFetchingNextPage} onPress={() => void fetchNextPage()}>
            {t("changes.further_back")}
          </Button>
        </div>
      )}
    </>
  );
}
