/** Who is known by what is typed of a customer: one line, taken by a touch. */
import { useQuery } from "@tanstack/react-query";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { people } from "../customers/queries";
import { useSettled } from "../../kit/useSettled";
import type { Writing } from "./takeIn";
import { t } from "../../language/t";

const SETTLED_MS = 200;
const FROM_LETTERS = 3;
const SHOWN = 3;

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin-top: -8px;
  align-items: baseline;
  color: var(--soft);
  font-size: 16px;
`;
const Take = styled(AriaButton)`
  min-height: 44px;
  padding: 0;
  border: none;
  background: none;
  text-align: left;
  cursor: pointer;
  color: var(--soft);
  b {
    color: var(--copper);
    font-weight: 650;
  }
`;

export function KnownPeople({ form }: { form: Writing }) {
  const { story, tell } = form;
  const typed = [story.customer, story.phone, story.plate]
    .map((text) => text.trim())
    .find((text) => text.length >= FROM_LETTERS);
  const asks = typed !== undefined && story.customerId == null;
  const settled = useSettled(asks ? typed : "", SETTLED_MS);
  const { data } = useQuery({ ...people(settled), enabled: settled.length >= FROM_LETTERS });
  if (!asks || settled === "" || !data) return null;
  const named = data.people.filter(({ name, phone, plate }) => name || phone || plate).slice(0, SHOWN);
  if (named.length === 0) return null;
  return (
    <Line role="group" aria-label={t("known_people.known_here")}>
      {t("known_people.known")}
      {named.map((one) => (
        <Take
          key={one.id}
          onPress={() =>
            tell({
              customerId: one.id,
              customer: one.name,
              phone: story.phone.trim() || one.phone,
              plate: story.plate.trim() || one.plate,
            })
          }
        >
          <b>{one.name || one.plate || one.phone}</b>{" "}
          {[one.name && one.phone, one.plate, one.cars[0]].filter(Boolean).join(", ")}
        </Take>
      ))}
    </Line>
  );
}
