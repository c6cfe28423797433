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
  [t("screens.size"), (car) => car.group_code],
  [t("variants.rating"), (car) => t("variants.cca", { min_cca_amps: Math.round(car.min_cca_amps) })],
  [
    t("screens.capacity_2"),
    (car) => (car.min_capacity_ah ? t("screens.ah_2", { min_capacity_ah: car.min_capacity_ah }) : ""),
  ],
  [t("screens.type"), (car) => CHEMISTRIES[car.chemistry] + (car.stop_start ? t("screens.stop_start") : "")],
  [t("variants.vent"), (car) => (car.vent_tube ? t("screens.vent_tube_2") : "")],
  [t("variants.agm"), (car) => (car.no_agm ? t("screens.no_agm") : "")],
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
    <Stack $gap={6} as="section" aria-label={t("variants.variants")}>
      {cars.length > 1 && (
        <h2>
          {picked === null
            ? t("variants.which_variants", {
                make: first.make,
                model: first.model,
                count: cars.length,
                years: first.years,
              })
            : `${first.make} ${first.model}, ${first.years}`}
        </h2>
      )}
      {cars.length > 1 && (
        <Row>
          {cars.map((car) => (
            <One key={car.id} aria-pressed={car.id === picked} onPress={() => onPick(car.id)}>
              <b>{car.variant || t("variants.plain")}</b>
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
            chosen.battery_place &&
              t("variants.sits", {
                battery_place: chosen.battery_place,
                access: chosen.access ? `: ${chosen.access}` : "",
              }),
            chosen.needs_registration &&
              t("variants.register_it", {
                programme: chosen.programme || t("variants.by_the_car_makers_instructions"),
              }),
            chosen.memory && t("variants.without_power_it_loses", { memory: chosen.memory }),
          ]
            .filter(Boolean)
            .join("; ")}
          .
        </Sits>
      )}
    </Stack>
  );
}
