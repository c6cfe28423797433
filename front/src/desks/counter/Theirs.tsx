/** Two who corrected the same label: what differs, side by side. */
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button } from "../../kit/parts";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, dayOf, timeOf, USES } from "../../kit/words";
import type { TakeIn } from "./takeIn";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 16px;
  th {
    text-align: left;
    color: var(--soft);
    font-weight: 500;
  }
  td,
  th {
    padding: 4px 6px 4px 0;
    border-bottom: 1px solid var(--line);
    vertical-align: top;
  }
  td {
    font-weight: 650;
  }
`;

const rows = ({ battery, context, ...more }: TakeIn): [string, string][] => [
  [t("line"), battery?.line || t("none")],
  [t("rated"), battery?.rating ? `${battery.rating.amps} ${battery.rating.scale}` : t("none")],
  [t("type"), `${CHEMISTRIES[battery?.chemistry ?? "flooded"]}, ${battery?.nominal_volts ?? 12} V`],
  [t("size"), battery?.group_code ?? t("none")],
  [t("capacity"), battery?.capacity_ah_20h ? t("{0} Ah", battery.capacity_ah_20h) : t("none")],
  [t("caps"), battery?.has_caps == null ? t("not looked") : battery.has_caps ? t("yes") : t("sealed")],
  [t("serial"), battery?.serial || t("none")],
  [t("made"), battery?.made_on ? dayOf(battery.made_on) : t("not read")],
  [t("sold"), more.sold_on ? dayOf(more.sold_on) : t("not by us")],
  [t("came"), CAME_IN[context.came_in ?? "carried_in"]],
  [t("wrong"), COMPLAINTS[context.complaint ?? "check_only"]],
  [t("use"), USES[context.use ?? "private"]],
  ["stop-start", context.stop_start_car ? t("yes") : t("no")],
  [
    t("customer"),
    [more.customer_name, more.customer_phone, more.customer_plate].filter(Boolean).join(", ") || t("none"),
  ],
  [t("car"), more.vehicle_id == null ? t("none") : t("number {0} of the list", more.vehicle_id)],
];

interface Props {
  mine: TakeIn;
  found: Schema["Theirs"];
  onTake: () => void;
}

export function Theirs({ mine, found, onTake }: Props) {
  const theirs = rows(found.take_in);
  const differ = rows(mine).flatMap(([name, text], index) => {
    const other = theirs[index]?.[1] ?? "";
    return other === text ? [] : [[name, text, other] as const];
  });
  return (
    <Stack $gap={8} role="group" aria-label={t("Two corrections side by side")}>
      <Table>
        <thead>
          <tr>
            <th />
            <th scope="col">{t("yours")}</th>
            <th scope="col">
              {found.who}, {timeOf(found.written_at)}
            </th>
          </tr>
        </thead>
        <tbody>
          {differ.map(([name, text, other]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{text}</td>
              <td>{other}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {differ.length === 0 && <p>{t("Both say the same.")}</p>}
      <Button onPress={onTake}>{t("Leave theirs")}</Button>
    </Stack>
  );
}
