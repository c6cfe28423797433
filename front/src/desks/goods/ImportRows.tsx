/** Rows of a file that is on its way in: as they stand, as they are read, and every refused one with why. */
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { Button, touchLink } from "../../kit/parts";
import { Acts } from "./parts";
import { t } from "../../language/t";

const Reason = styled.td`
  white-space: normal;
  max-width: none;
`;

const Table = styled.div`
  flex: none; /* it is as high as its rows: the column slides */
  overflow: auto;
  max-width: 100%;
  table {
    border-collapse: collapse;
    font-size: 16px;
  }
  th,
  td {
    padding: 4px 10px;
    border-bottom: 1px solid var(--line);
    text-align: left;
    white-space: nowrap;
    max-width: 260px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  th {
    color: var(--soft);
    font-weight: 600;
  }
`;
const Out = styled.a`
  ${touchLink}
`;
const REFUSED_PAGE = 100;

interface RefusedProps {
  run: Schema["ImportView"];
  page: number;
  onPage: (page: number) => void;
}

/** A page of the refused rows, and all of them as a file. */
export function Refused({ run, page, onPage }: RefusedProps) {
  if (run.refused.length === 0) return null;
  return (
    <>
      <h2>{t("import_rows.refused")}</h2>
      <Table>
        <table aria-label={t("import_rows.refused_rows")}>
          <thead>
            <tr>
              <th>{t("import_rows.row")}</th>
              <th>{t("import_rows.column")}</th>
              <th>{t("import_rows.why")}</th>
            </tr>
          </thead>
          <tbody>
            {run.refused.map(([row, column, why], index) => (
              <tr key={index}>
                <td>{String(row)}</td>
                <td>{String(column)}</td>
                <Reason>{String(why)}</Reason>
              </tr>
            ))}
          </tbody>
        </table>
      </Table>
      <Acts>
        {page > 0 && <Button onPress={() => onPage(page - 1)}>{t("screens.before")}</Button>}
        {run.rows_refused > (page + 1) * REFUSED_PAGE && (
          <Button onPress={() => onPage(page + 1)}>{t("screens.further")}</Button>
        )}
        <Out href={linkTo("/api/imports/{run_id}/refused.csv", { run_id: run.id })} download>
          {t("import_rows.all_refused_rows_as_csv")}
        </Out>
      </Acts>
    </>
  );
}

export function Sample({ run }: { run: Schema["ImportView"] }) {
  return (
    <>
      <h2>{t("import_rows.the_first_rows_as_they_stand")}</h2>
      <Table>
        <table aria-label={t("import_rows.the_first_rows")}>
          <thead>
            <tr>
              {run.columns.map((column, index) => (
                <th key={index}>{column}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {run.sample.map((row, index) => (
              <tr key={index}>
                {run.columns.map((_, place) => (
                  <td key={place}>{row[place]}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Table>
    </>
  );
}

export function ReadAs({ run }: { run: Schema["ImportView"] }) {
  const order = run.fields.map((field) => field.name);
  const names = Object.keys(run.read_as[0] ?? {})
    .filter((name) => run.read_as.some((row) => row[name] !== "" && row[name] !== "None"))
    .sort((one, other) => ((order.indexOf(one) + 99) % 99) - ((order.indexOf(other) + 99) % 99));
  return (
    <>
      <h2>{t("import_rows.the_first_rows_as_they_are_read")}</h2>
      <Table>
        <table aria-label={t("import_rows.as_they_are_read")}>
          <thead>
            <tr>
              {names.map((name) => (
                <th key={name}>{name.replaceAll("_", " ")}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {run.read_as.map((row, index) => (
              <tr key={index}>
                {names.map((name) => (
                  <td key={name}>{String(row[name] ?? "")}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Table>
    </>
  );
}
