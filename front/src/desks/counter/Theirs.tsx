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
  [t("theirs.line"), battery?.line || t("screens.none")],
  [t("screens.rated"), battery?.rating ? `${battery.rating.amps} ${battery.rating.scale}` : t("screens.none")],
  [t("screens.type"), `${CHEMISTRIES[battery?.chemistry ?? "flooded"]}, ${battery?.nominal_volts ?? 12} V`],
  [t("screens.size"), battery?.group_code ?? t("screens.none")],
  [
    t("screens.capacity_2"),
    battery?.capacity_ah_20h ? t("screens.ah", { capacity_ah_20h: battery.capacity_ah_20h }) : t("screens.none"),
  ],
  [
    t("theirs.caps"),
    battery?.has_caps == null ? t("theirs.not_looked") : battery.has_caps ? t("theirs.yes") : t("theirs.sealed"),
  ],
  [t("screens.serial"), battery?.serial || t("screens.none")],
  [t("screens.made"), battery?.made_on ? dayOf(battery.made_on) : t("screens.not_read")],
  [t("screens.sold"), more.sold_on ? dayOf(more.sold_on) : t("theirs.not_by_us")],
  [t("screens.came"), CAME_IN[context.came_in ?? "carried_in"]],
  [t("theirs.wrong"), COMPLAINTS[context.complaint ?? "check_only"]],
  [t("screens.use"), USES[context.use ?? "private"]],
  ["stop-start", context.stop_start_car ? t("theirs.yes") : t("theirs.no")],
  [
    t("theirs.customer"),
    [more.customer_name, more.customer_phone, more.customer_plate].filter(Boolean).join(", ") || t("screens.none"),
  ],
  [
    t("screens.car"),
    more.vehicle_id == null ? t("screens.none") : t("theirs.number_of_the_list", { vehicle_id: more.vehicle_id }),
  ],
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
    <Stack $gap={8} role="group" aria-label={t("theirs.two_corrections_side_by_side")}>
      <Table>
        <thead>
          <tr>
            <th />
            <th scope="col">{t("theirs.yours")}</th>
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
      {differ.length === 0 && <p>{t("theirs.both_say_the_same")}</p>}
      <Button onPress={onTake}>{t("theirs.leave_theirs")}</Button>
    </Stack>
  );
}
