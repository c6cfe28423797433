/** Variants of one model and year beside one another: what differs stands out, one is picked. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { CHEMISTRIES } from "../../kit/words";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";

const Row = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(132px, 1fr));
  gap: 6px;
`;
const One = styled(AriaButton)`
  display: grid;
  align-content: start;
  gap: 2px;
  min-height: 44px;
  padding: 7px 10px;
  border: 1.5px solid var(--line);
  border-radius: 9px;
  background: var(--sheet);
  text-align: left;
  font-size: 16px;
  line-height: 1.22;
  cursor: pointer;
  color: var(--soft);
  b {
    color: var(--ink);
    font-size: 17px;
  }
  em {
    font-style: normal;
    font-weight: 700;
    color: var(--ink);
  }
  &[aria-pressed="true"] {
    border-color: var(--ink);
    box-shadow: inset 0 0 0 1.5px var(--ink);
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
`;
const Sits = styled.p`
  font-size: 16px;
  line-height: 1.25;
  color: var(--soft);
`;

type Car = Schema["ListedCar"];

const FACTS: [string, (car: Car) => string][] = [
  [t("size"), (car) => car.group_code],
  [t("rating"), (car) => t("{0} CCA", Math.round(car.min_cca_amps))],
  [t("capacity"), (car) => (car.min_capacity_ah ? t("{0} Ah", car.min_capacity_ah) : "")],
  [t("type"), (car) => CHEMISTRIES[car.chemistry] + (car.stop_start ? t(", stop-start") : "")],
  [t("vent"), (car) => (car.vent_tube ? t("vent tube") : "")],
  [t("agm"), (car) => (car.no_agm ? t("no AGM") : "")],
];

export function Variants({
  cars,
  picked,
  onPick,
}: {
  cars: Car[];
  picked: number | null;
  onPick: (id: number) => void;
}) {
  const differs = new Set(FACTS.filter(([, of]) => new Set(cars.map(of)).size > 1).map(([name]) => name));
  const chosen = cars.find((car) => car.id === picked);
  const [first] = cars;
  if (!first) return null;
  return (
    <Stack $gap={6} as="section" aria-label={t("Variants")}>
      {cars.length > 1 && (
        <h2>
          {picked === null
            ? t("Which {0} {1}? {2} variants {3}", first.make, first.model, cars.length, first.years)
            : `${first.make} ${first.model}, ${first.years}`}
        </h2>
      )}
      {cars.length > 1 && (
        <Row>
          {cars.map((car) => (
            <One key={car.id} aria-pressed={car.id === picked} onPress={() => onPick(car.id)}>
              <b>{car.variant || t("plain")}</b>
              {FACTS.map(([name, of]) => {
                const value = of(car);
                if (!value) return null;
                return differs.has(name) ? <em key={name}>{value}</em> : <span key={name}>{value}</span>;
              })}
            </One>
          ))}
        </Row>
      )}
      {chosen && (chosen.battery_place || chosen.programme || chosen.memory) && (
        <Sits>
          {[
            chosen.battery_place && t("Sits {0}{1}", chosen.battery_place, chosen.access ? `: ${chosen.access}` : ""),
            chosen.needs_registration &&
              t("register it: {0}", chosen.programme || t("by the car maker's instructions")),
            chosen.memory && t("without power it loses {0}", chosen.memory),
          ]
            .filter(Boolean)
            .join("; ")}
          .
        </Sits>
      )}
    </Stack>
  );
}
