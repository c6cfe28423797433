/** A car typed: make, model, year, engine; of one model and year the variants come beside one another. */
import { useQuery } from "@tanstack/react-query";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { vehicles } from "../../api/queries";
import { Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { useSettled } from "../../kit/useSettled";
import { t } from "../../language/t";

const PAUSE_MS = 120;
const SHOWN = 6;

const Found = styled.ul`
  display: grid;
  gap: 4px;
  margin-top: 4px;
`;
const One = styled(AriaButton)`
  display: block;
  width: 100%;
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  text-align: left;
  font-size: 16px;
  line-height: 1.2;
  cursor: pointer;
  b {
    font-size: 17px;
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
`;

type Car = Schema["ListedCar"];

/** Cars of one make, model and span of years: what is chosen among side by side. */
export function groupsOf(cars: Car[]): Car[][] {
  const groups = new Map<string, Car[]>();
  for (const car of cars) {
    const key = `${car.make}\n${car.model}\n${car.years}`;
    groups.set(key, [...(groups.get(key) ?? []), car]);
  }
  return [...groups.values()];
}

interface Props {
  text: string;
  onType: (text: string) => void;
  onPick: (cars: Car[]) => void;
  autoFocus: boolean;
}

export function CarSearch({ text, onType, onPick, autoFocus }: Props) {
  const settled = useSettled(text, PAUSE_MS);
  const { data, isFetching, isError } = useQuery(vehicles(settled, true));
  const isAsking = text.trim().length > 1;
  const groups = isAsking && data ? groupsOf(data) : [];
  return (
    <div>
      <Entry
        label={t("car_search.car_make_model_year_engine")}
        value={text}
        onChange={onType}
        numeric={false}
        placeholder={t("car_search.tillet_2020")}
        name="car"
        autoFocus={autoFocus}
      />
      <Found aria-label={t("car_search.cars_found")}>
        {groups.slice(0, SHOWN).map((cars) => {
          const [first] = cars;
          if (!first) return null;
          return (
            <li key={first.id}>
              <One onPress={() => onPick(cars)}>
                <b>
                  {first.make} {first.model}
                </b>
                <br />
                <Soft>
                  {first.years}
                  {cars.length > 1
                    ? t("car_search.variants", { count: cars.length })
                    : first.variant && `, ${first.variant}`}
                </Soft>
              </One>
            </li>
          );
        })}
      </Found>
      {groups.length > SHOWN && <Soft>{t("car_search.and_more_type_on", { count: groups.length - SHOWN })}</Soft>}
      {isAsking && data && !isFetching && groups.length === 0 && (
        <Soft role="status">{t("car_search.no_such_car_in_the_list_type_less_of_it_or")}</Soft>
      )}
      {isError && <Soft role="status">{t("car_search.the_list_does_not_answer_now")}</Soft>}
    </div>
  );
}
