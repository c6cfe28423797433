/** Customers: found by whatever is known of them; how they were written in, their cars and batteries. The search stands in the address. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-aria-components";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { people } from "./queries";
import { Soft, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { dayOf } from "../../kit/words";
import { useSettled } from "../../kit/useSettled";
import { Column, Columns, Heads, Line } from "../goods/parts";
import { PersonPanel } from "./PersonPanel";
import { t } from "../../language/t";

const TwoColumns = styled(Columns)`
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
`;
const Known = styled.small`
  text-align: left;
`;

const SETTLED_MS = 180;

const Row = styled(Line)`
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.2fr) 112px;
  span {
    white-space: nowrap;
  }
`;
const To = styled(Link)`
  ${touchLink}
`;

export function CustomersDesk({ id, who }: { id: number | null; who: Schema["Me"] }) {
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const text = params.get("text") ?? "";
  const { data: found, error } = useQuery(people(useSettled(text, SETTLED_MS)));
  const search = text ? `?text=${encodeURIComponent(text)}` : "";
  return (
    <TwoColumns>
      <Column aria-label={t("screens.customers")}>
        <Heads>
          <h1>{t("screens.customers")}</h1>
          <To href="/records">{t("customers_desk.all_checks")}</To>
        </Heads>
        <Entry
          label={t("customers_desk.name_phone_plate_car_or_serial_of_a")}
          value={text}
          onChange={(typed) => setParams(typed ? { text: typed } : {}, { replace: true })}
          numeric={false}
          autoFocus
        />
        {error && <p role="alert">{error.message}</p>}
        <div>
          {found?.people.map((one) => (
            <Row
              key={one.id}
              aria-pressed={one.id === id}
              onPress={() => void navigate(`/customers/${one.id}${search}`)}
            >
              <b>{one.name || one.plate || one.phone}</b>
              <Known>{[one.name && one.phone, one.name && one.plate, one.cars[0]].filter(Boolean).join(", ")}</Known>
              <span>
                {one.batteries === 1 ? t("customers_desk.1_battery") : t("screens.batteries", { count: one.batteries })}
                {one.last_came_at && (
                  <small>
                    <br />
                    {dayOf(one.last_came_at)}
                  </small>
                )}
              </span>
            </Row>
          ))}
        </div>
        {found?.more && <Soft>{t("customers_desk.there_are_more_type_another_letter")}</Soft>}
        {found?.people.length === 0 &&
          (text ? (
            <p>{t("customers_desk.nobody_here_is_known_by", { text })}</p>
          ) : (
            <p>{t("customers_desk.nobody_is_written_in_yet_whoever_leaves_a")}</p>
          ))}
      </Column>
      <Column aria-label={t("customers_desk.one_customer")}>
        {id === null ? (
          <Soft>{t("customers_desk.pick_somebody_to_see_their_cars_and")}</Soft>
        ) : (
          <PersonPanel key={id} id={id} who={who} />
        )}
      </Column>
    </TwoColumns>
  );
}
