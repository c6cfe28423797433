/** The first page of a server without a shop: the shop, its people, its bench. One write, and its owner is in. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, type Schema } from "../../api/client";
import { setUp } from "../../api/queries";
import { enter } from "../../kit/locked";
import { Button, Choice, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { UPRIGHT } from "../../kit/theme";
import { Acts, Fault, Figures } from "../goods/parts";
import { dayOfWords, HOURS_FAULT } from "../equipment/hours";
import { shopOf, ShopFields, fieldsOf } from "../house/ShopFields";
import { language } from "../../language/catalogue";
import { t } from "../../language/t";

const Sheet = styled(Form)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: 100%;
  overflow: auto;
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Part = styled.section`
  padding: 28px 40px;
  display: grid;
  gap: 14px;
  align-content: start;
  &:nth-of-type(2) {
    background: var(--shelf);
    border-left: 2px solid var(--rule);
  }
  h1 {
    font-size: 40px;
    line-height: 1;
  }
  h2 {
    font-size: 20px;
  }
  ${UPRIGHT} {
    padding: 18px 16px;
  }
`;
const Question = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--line);
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Person = styled(Figures)`
  align-items: start;
`;

type Has = "has_tester" | "has_adjustable_load" | "has_fixed_load" | "has_hydrometer";
type Believes = Schema["Believes"];
const HAS: Has[] = ["has_tester", "has_adjustable_load", "has_fixed_load", "has_hydrometer"];
const YES_NO = { yes: t("screens.yes"), no: t("screens.no") } as const;
const nobody = (role: Schema["Role"]) => ({ name: "", pin: "", role, works_here: true });

const OPEN_ON = [t("set_up.open_monday_to_friday"), t("screens.saturday"), t("screens.sunday")];
/** What most shops keep, until this one says otherwise. */
const USUAL = ["08:30 17:30", "09:00 13:00", ""];

/** A new shop's settings as this device has them. */
function here(): Schema["ShopSettings"] {
  const { timeZone, locale } = Intl.DateTimeFormat().resolvedOptions();
  const inUs = /-US$/.test(locale);
  return {
    name: "", currency: inUs ? "USD" : /-GB$/.test(locale) ? "GBP" : "EUR", temperature_unit: inUs ? "F" : "C",
    length_unit: inUs ? "in" : "mm", time_zone: timeZone, idle_minutes: 10, tax_name: "", tax_pct: 0, tax_on_top: false, more_taxes: [], paper_size: inUs ? "Letter" : "A4", paper_head: "", paper_foot: "",
    language: language(),
  }; // prettier-ignore
}

export function SetUp() {
  const { data: asks } = useQuery(setUp);
  const [code, setCode] = useState(() => new URLSearchParams(location.search).get("code") ?? "");
  const [shop, setShop] = useState(() => fieldsOf(here()));
  const [people, setPeople] = useState([nobody("owner")]);
  const [has, setHas] = useState<Record<Has, boolean>>({
    has_tester: true,
    has_adjustable_load: false,
    has_fixed_load: false,
    has_hydrometer: false,
  });
  const [hours, setHours] = useState(USUAL);
  const [believes, setBelieves] = useState<Believes>("tester");
  const read = hours.map(dayOfWords);
  const [workday = null, saturday = null, sunday = null] = read;
  const week = [workday, workday, workday, workday, workday, saturday, sunday];
  const open = useMutation({
    mutationFn: () =>
      enter(() =>
        answerOf(
          api.POST("/api/set-up", {
            body: {
              code,
              shop: shopOf(shop),
              people,
              answers: { ...has, believes },
              opening_hours: { days: week, closed: [] },
            },
          }),
        ),
      ),
    onSuccess: (found) => {
      sessionStorage.setItem("vane-check-next", String(found.id));
      location.replace("/house"); // what is missing for the first piece of work
    },
  });
  const problem = open.error instanceof ApiProblem ? open.error : null;
  const of = (path: string) => problem?.of(path);
  const set = (index: number, more: Partial<ReturnType<typeof nobody>>) =>
    setPeople(people.map((one, at) => (at === index ? { ...one, ...more } : one)));
  if (!asks) return null;
  const school = asks.schools[HAS.map((one) => (has[one] ? "1" : "0")).join("") + believes];
  const isShown = problem?.errors.length
    ? problem.errors.some(({ path }) => /^(shop|people|opening_hours)/.test(path))
    : false;
  return (
    <Sheet
      aria-label={t("set_up.set_up_a_shop")}
      onSubmit={(event) => {
        event.preventDefault();
        open.mutate();
      }}
    >
      <Part>
        <h1>{t("set_up.a_shop_of_your_own")}</h1>
        <Soft>{t("set_up.what_you_say_here_can_all_be_changed_later")}</Soft>
        <h2>{t("screens.the_shop")}</h2>
        <ShopFields typed={shop} onChange={setShop} of={of} zones={asks.zones} languages={asks.languages} isNew />
        <Figures role="group" aria-label={t("screens.opening_hours")}>
          {OPEN_ON.map((days, index) => (
            <Entry
              key={days}
              label={days}
              value={hours[index] ?? ""}
              onChange={(text) => setHours(hours.map((one, at) => (at === index ? text : one)))}
              numeric={false}
              placeholder={t("screens.closed")}
              name={`hours-${index}`}
              problem={
                read[index] === undefined
                  ? HOURS_FAULT
                  : index === 0
                    ? problem?.errors.find(({ path }) => path.startsWith("opening_hours"))?.message
                    : undefined
              }
            />
          ))}
        </Figures>
        <h2>{t("set_up.who_works_here")}</h2>
        {people.map((one, index) => (
          <Person
            key={index}
            role="group"
            aria-label={index ? t("set_up.person", { index: index + 1 }) : t("set_up.the_owner")}
          >
            <Entry
              label={index ? t("screens.name") : t("set_up.your_name")}
              value={one.name}
              onChange={(name) => set(index, { name })}
              numeric={false}
              name={`name-${index}`}
              problem={of(`people[${index}].name`)}
            />
            <Entry
              label={t("set_up.pin_six_digits")}
              value={one.pin}
              onChange={(pin) => set(index, { pin })}
              name={`pin-${index}`}
              problem={of(`people[${index}].pin`)}
            />
            {index === 0 ? (
              <Soft>{t("set_up.owner_also_says_who_leads")}</Soft>
            ) : (
              <Choice
                label={t("screens.may")}
                value={one.role}
                words={{ counter: t("screens.counter_2"), lead: t("screens.lead") }}
                onChange={(role) => set(index, { role })}
              />
            )}
          </Person>
        ))}
        <Acts>
          <Button onPress={() => setPeople([...people, nobody("counter")])}>{t("set_up.one_more_person")}</Button>
          {people.length > 1 && <Button onPress={() => setPeople(people.slice(0, -1))}>{t("set_up.one_less")}</Button>}
        </Acts>
      </Part>
      <Part>
        <h2>{t("set_up.the_bench_five_questions")}</h2>
        {HAS.map((one) => (
          <Question key={one}>
            <span>{asks.questions[one]}</span>
            <Choice
              label={asks.questions[one] ?? one}
              hideLabel
              value={has[one] ? "yes" : "no"}
              words={YES_NO}
              onChange={(said) => setHas({ ...has, [one]: said === "yes" })}
            />
          </Question>
        ))}
        <Choice
          label={asks.questions["believes"] ?? ""}
          value={believes}
          words={asks.believes as Record<Believes, string>}
          onChange={setBelieves}
        />
        {school && (
          <p aria-live="polite">
            {t("set_up.the_house_rules_to_begin_with")} <b>{school.name}</b>: {school.why}.
          </p>
        )}
        <Entry
          label={t("set_up.the_code_the_start_command_printed")}
          value={code}
          onChange={setCode}
          numeric={false}
          name="code"
          problem={problem?.status === 403 ? problem.message : undefined}
        />
        {open.error && !isShown && problem?.status !== 403 && (
          <Fault role="alert">{problem?.errors[0]?.message ?? open.error.message}</Fault>
        )}
        <Acts>
          <Button
            type="submit"
            $tone="strong"
            isDisabled={open.isPending || !shop.name.trim() || !people[0]?.name.trim() || read.includes(undefined)}
          >
            {t("set_up.open_the_shop")}
          </Button>
        </Acts>
        <Soft>{t("set_up.a_meter_a_charger_and_a_car_are_taken_for")}</Soft>
      </Part>
    </Sheet>
  );
}
