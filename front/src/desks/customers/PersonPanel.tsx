/** One customer: corrected, merged with who is the same, taken apart again; their cars and batteries. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { put } from "../../api/live";
import { queries } from "../../api/queries";
import { Button, Soft, touchLink } from "../../kit/parts";
import { UPRIGHT } from "../../kit/theme";
import { dayOf, listWords, mayLead, PLACES } from "../../kit/words";
import { SendTo } from "../../stores/sending";
import { InlineMark } from "../../vane/outcomes";
import { Acts, Fault, Heads } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { PersonEdit } from "./PersonEdit";
import { PersonRights } from "./PersonRights";
import { person } from "./queries";
import { t } from "../../language/t";

const PersonName = styled.h2`
  font-size: 24px;
`;
const OutcomeWord = styled.span`
  display: inline-flex;
  gap: 6px;
  align-items: center;
`;

const CARS_SHOWN = 5;

type View = Schema["CustomerView"];

const To = styled(Link)`
  ${touchLink}
`;
const Battery = styled(Link)`
  display: grid;
  grid-template-columns: 52px minmax(0, 1.1fr) minmax(0, 1fr) 128px;
  gap: 2px 10px;
  align-items: center;
  min-height: 44px;
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
  font-size: 16px;
  line-height: 1.2;
  cursor: pointer;
  b {
    font-size: 18px;
  }
  &[data-hovered] {
    background: var(--shelf);
  }
  ${UPRIGHT} {
    grid-template-columns: 52px minmax(0, 1fr) auto;
    & > :nth-child(3) {
      display: none;
    }
  }
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
`;

export function PersonPanel({ id, who }: { id: number; who: Schema["Me"] }) {
  const navigate = useNavigate();
  const { data: found, error } = useQuery(person(id));
  const [edits, setEdits] = useState(false);
  const took = (view: View) => {
    put(person(id).queryKey, view);
    void queries.invalidateQueries({ queryKey: ["customers", "found"] });
    void queries.invalidateQueries({ queryKey: ["battery"] });
    setEdits(false);
  };
  const merge = useWrite(
    (other_id: number, named) =>
      answerOf(
        api.POST("/api/customers/{customer_id}/merge", {
          params: { ...named, path: { customer_id: id } },
          body: { other_id },
        }),
      ),
    took,
  );
  const apart = useWrite(
    (other_id: number, named) =>
      answerOf(
        api.POST("/api/customers/{customer_id}/apart", {
          params: { ...named, path: { customer_id: id } },
          body: { other_id },
        }),
      ),
    took,
  );
  if (error && !found) return <h2>{error.message}</h2>;
  if (!found) return null;
  if (found.erased_at)
    return (
      <>
        <h2>{t("person_panel.forgotten_on", { erased_at: dayOf(found.erased_at) })}</h2>
        <Soft>{t("person_panel.name_phone_and_plate_are_gone_from")}</Soft>
        {found.sent_to.length > 0 && (
          <p>
            <b>{found.sent_to.join(", ")}</b> {t("person_panel.was_sent_their_name_too_forget_them_there")}
          </p>
        )}
      </>
    );
  const fault = merge.beside() ?? apart.beside();
  return (
    <>
      {edits ? (
        <PersonEdit view={found} onDone={took} onLeave={() => setEdits(false)} />
      ) : (
        <Heads>
          <div>
            <PersonName>{nameOf(found.own)}</PersonName>
            {found.own.name && (
              <Soft>{[found.own.phone, found.own.plate].filter(Boolean).join(", ") || t("person_panel.no_phone")}</Soft>
            )}
          </div>
          <Button onPress={() => setEdits(true)}>{t("screens.correct")}</Button>
        </Heads>
      )}
      {found.ways.length > 0 && (
        <section aria-label={t("person_panel.also_written_in_as")}>
          <Soft>{t("person_panel.also_written_in_as_2")}</Soft>
          {found.ways.map((way) => (
            <Two key={way.id}>
              <span>{all(way)}</span>
              <Button
                isDisabled={apart.pending}
                onPress={() => apart.write(way.id)}
                aria-label={t("person_panel.not_the_same_person", { way: all(way) })}
              >
                {t("person_panel.not_the_same")}
              </Button>
            </Two>
          ))}
        </section>
      )}
      {found.alike.length > 0 && (
        <section aria-label={t("person_panel.may_be_the_same_person")}>
          <h2>{t("person_panel.may_be_the_same_person")}</h2>
          {found.alike.map((one) => (
            <Two key={one.id}>
              <span>
                <To href={`/customers/${one.id}`}>{nameOf(one)}</To>{" "}
                <Soft>
                  {one.why}; {aboutOf(one)}
                </Soft>
              </span>
              <Button
                $tone="copper"
                isDisabled={merge.pending}
                onPress={() => merge.write(one.id)}
                aria-label={t("person_panel.the_same_person", { one: nameOf(one) })}
              >
                {t("person_panel.the_same")}
              </Button>
            </Two>
          ))}
        </section>
      )}
      {fault && <Fault role="alert">{fault}</Fault>}
      {found.cars.length > 0 && (
        <p>
          <Soft>{t("person_panel.drives")}</Soft> {found.cars.slice(0, CARS_SHOWN).join(", ")}
          {found.cars.length > CARS_SHOWN && (
            <Soft> {t("person_panel.and_more", { count: found.cars.length - CARS_SHOWN })}</Soft>
          )}
        </p>
      )}
      <section aria-label={t("person_panel.their_batteries")}>
        <h2>
          {found.batteries.length === 1
            ? t("person_panel.one_battery")
            : t("screens.batteries_2", { count: found.batteries.length })}
        </h2>
        {found.batteries.map((one) => (
          <Battery key={one.tag} href={`/life/${one.tag}`}>
            <b>{one.tag}</b>
            <span>
              {one.line || t("screens.no_line")}
              {one.serial && <Soft> {one.serial}</Soft>}
            </span>
            <Soft>
              {dayOf(one.came_at)}, {one.now ? one.car || PLACES[one.place] : t("person_panel.anothers_since")}
            </Soft>
            <OutcomeWord>
              {one.outcome ? (
                <>
                  <InlineMark outcome={one.outcome} size={18} /> {listWords({ outcome: one.outcome, sold: one.sold })}
                </>
              ) : (
                <Soft>{t("screens.not_read_yet")}</Soft>
              )}
            </OutcomeWord>
          </Battery>
        ))}
      </section>
      {found.sent_to.length > 0 && (
        <Soft>{t("person_panel.also_known_to", { sent_to: found.sent_to.join(", ") })}</Soft>
      )}
      <Acts>
        <SendTo what={{ customer_id: found.id }} name={nameOf(found.own)} />
        {mayLead(who) && (
          <PersonRights
            view={found}
            onForgotten={(view) => {
              took(view);
              void navigate(`/customers/${view.id}`);
            }}
          />
        )}
      </Acts>
    </>
  );
}

interface Written {
  name: string;
  phone: string;
  plate: string;
}
const nameOf = (one: Written) => one.name || one.plate || one.phone;
const all = (one: Written) => [one.name, one.phone, one.plate].filter(Boolean).join(", ");
const aboutOf = (one: Schema["Alike"]) =>
  [
    one.phone,
    one.plate,
    one.cars[0],
    one.batteries === 1
      ? t("person_panel.battery", { newest_tag: one.newest_tag })
      : t("screens.batteries", { count: one.batteries }),
  ]
    .filter(Boolean)
    .join(", ");
