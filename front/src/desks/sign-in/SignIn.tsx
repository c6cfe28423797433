/** Pick a name, type a PIN. The pad is drawn large: hands are gloved. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useLayoutEffect, useRef, useState } from "react";
import { Button as AriaButton, Form, Input, Label, TextField } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, carryCsrfToken, type Schema } from "../../api/client";
import { me, people, queries } from "../../api/queries";
import { enter as enterHere } from "../../kit/locked";
import { Button, labelStyle } from "../../kit/parts";
import { LineStrip } from "../../kit/WaitingSheet";
import { useKeydown } from "../../kit/letters";
import { fieldStands } from "../../kit/typeAhead";
import { mayLead } from "../../kit/words";

import { t } from "../../language/t";
import { wordOf } from "../../language/speak";

const Picture = styled.svg`
  width: 100%;
  max-height: 300px;
`;

const Room = styled.main`
  height: 100%;
  display: grid;
  grid-template-columns: 1fr 1.15fr;
  background: var(--ground);
`;
const Sign = styled.section`
  background: var(--shelf);
  border-right: 2px solid var(--rule);
  padding: 72px 56px 40px;
  display: grid;
  align-content: space-between;
  h1 {
    font-size: 56px;
    line-height: 1;
    letter-spacing: -0.01em;
  }
  p {
    font-size: 20px;
    max-width: 22em;
    color: var(--soft);
    margin-top: 14px;
  }
`;
const Who = styled.section`
  padding: 64px 56px;
  display: grid;
  align-content: start;
  gap: 22px;
  overflow: auto;
`;
const Names = styled.ul`
  display: grid;
  gap: 10px;
`;
const Name = styled(AriaButton)`
  width: 100%;
  min-height: 60px;
  padding: 8px 18px;
  text-align: left;
  font-size: 21px;
  font-weight: 650;
  cursor: pointer;
  background: var(--sheet);
  border: 1.5px solid var(--line);
  border-radius: 10px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  small {
    color: var(--soft);
    font-weight: 400;
    font-size: 16px;
  }
  &[data-current="true"] {
    border-color: var(--ink);
    box-shadow: inset 0 0 0 1.5px var(--ink);
  }
`;
const PinRow = styled(Form)`
  display: grid;
  grid-template-columns: 232px 1fr;
  gap: 26px;
  align-items: start;
`;
const PinInput = styled(Input)`
  width: 100%;
  min-height: 56px;
  font-size: 30px;
  letter-spacing: 0.3em;
  padding: 4px 14px;
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  background: var(--sheet);
`;
const Pad = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
  button {
    min-height: 54px;
    font-size: 22px;
    text-align: center;
    padding: 0;
  }
`;
const PinLabel = styled(Label)`
  ${labelStyle}
`;
const Wrong = styled.p`
  color: var(--failed);
  font-weight: 650;
  min-height: 1.4em;
`;
const PAD = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "⌫", "0", "↵"];

export function SignIn() {
  const client = useQueryClient();
  const { data: door } = useQuery(people);
  const staff = door?.people;
  const [person, setPerson] = useState<number | null>(() => Number(sessionStorage.getItem("vane-check-next")) || null);
  const [pin, setPin] = useState("");
  const [wrong, setWrong] = useState("");
  const [waits, setWaits] = useState(false);
  const [lead, setLead] = useState<Schema["Person"] | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const asking = useRef(false);
  useLayoutEffect(() => {
    if (person !== null) input.current?.focus();
    fieldStands(); // a PIN begun while this page was on its way
  }, [person]);
  useFiguresInto(input);

  async function enter() {
    if (asking.current) return;
    if (person === null) return setWrong(t("sign_in.pick_your_name_first"));
    if (!pin) return setWrong(t("sign_in.type_your_pin"));
    asking.current = true;
    setPin(""); // what is typed from here on is the next try
    setWrong("");
    try {
      if (lead) return await lift(lead, person);
      const answer = await enterHere(() => answerOf(api.POST("/api/sign-in", { body: { staff_id: person, pin } })));
      carryCsrfToken(answer.csrf_token);
      sessionStorage.setItem("vane-check-next", String(person));
      client.setQueryData(me.queryKey, answer);
      void queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "me" });
    } catch (error) {
      setWrong(error instanceof ApiProblem ? error.message : t("screens.the_server_does_not_answer_try_again_in_a"));
      setWaits(error instanceof ApiProblem && error.waitSeconds !== null && !lead);
      input.current?.focus();
    } finally {
      asking.current = false;
    }
  }

  /** A lead ends the waiting of whoever stands here. */
  async function lift(by: Schema["Person"], staffId: number) {
    await answerOf(api.POST("/api/sign-in/lift", { body: { staff_id: staffId, lead_id: by.id, lead_pin: pin } }));
    setLead(null);
    setWaits(false);
    setWrong(t("sign_in.lifted_the_wait_now_your_own_pin", { name: by.name }));
    input.current?.focus();
  }

  function press(key: string) {
    if (key === "↵") return void enter();
    setPin((before) => (key === "⌫" ? before.slice(0, -1) : before + key));
    input.current?.focus();
  }

  return (
    <Room>
      <Sign>
        <div>
          <h1>{t("sign_in.vane_check")}</h1>
          <p>{t("sign_in.discharged_worn_out_or_not_the_battery_at")}</p>
        </div>
        <Emblem />
      </Sign>
      <Who>
        <LineStrip />
        <h2>{door ? door.store || t("sign_in.no_store_is_known_here_open_its_own") : ""}</h2>
        <Names aria-label={t("sign_in.who_is_at_the_counter")}>
          {staff?.map((one) => (
            <li key={one.id}>
              <Name
                data-current={one.id === person}
                aria-pressed={one.id === person}
                onPress={() => {
                  setPerson(one.id);
                  setLead(null);
                  setWaits(false);
                  setWrong("");
                  input.current?.focus();
                }}
              >
                {one.name} <small>{wordOf(one.role)}</small>
              </Name>
            </li>
          ))}
        </Names>
        <PinRow
          onSubmit={(event) => {
            event.preventDefault();
            void enter();
          }}
        >
          <Pad>
            {PAD.map((key) => (
              <Button
                key={key}
                onPress={() => press(key)}
                aria-label={key === "⌫" ? t("sign_in.delete") : key === "↵" ? t("sign_in.sign_in") : key}
                $tone={key === "↵" ? "strong" : "plain"}
              >
                {key}
              </Button>
            ))}
          </Pad>
          <div>
            <TextField value={pin} onChange={setPin} type="password" aria-label={t("screens.pin")}>
              <PinLabel>
                {lead ? t("sign_in.pin_of_who_lifts_the_wait", { name: lead.name }) : t("screens.pin")}
              </PinLabel>
              <PinInput ref={input} inputMode="numeric" autoComplete="off" />
            </TextField>
            <Wrong role="alert">{wrong}</Wrong>
            {waits &&
              staff
                ?.filter((one) => mayLead(one) && one.id !== person)
                .map((one) => (
                  <Button
                    key={one.id}
                    onPress={() => {
                      setLead(one);
                      setPin("");
                      input.current?.focus();
                    }}
                  >
                    {t("sign_in.can_lift_this", { name: one.name })}
                  </Button>
                ))}
          </div>
        </PinRow>
      </Who>
    </Room>
  );
}

/** Figures typed while a name or nothing has the focus are the PIN. */
function useFiguresInto(field: React.RefObject<HTMLInputElement | null>) {
  useKeydown((event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) return;
    if (/^\d$/.test(event.key)) field.current?.focus();
  }, true);
}

/** A vane with a closed tail: evidence that agrees. */
function Emblem() {
  return (
    <Picture viewBox="0 0 420 250" aria-hidden>
      <path d="M60 240 A150 150 0 0 1 360 240" fill="none" stroke="var(--line)" strokeWidth="2" />
      <path d="M120 205 L330 70" stroke="var(--ink)" strokeWidth="9" strokeLinecap="round" />
      <path d="M362 50 L306 62 L330 98 Z" fill="var(--ink)" />
      <path
        d="M190 160 Q120 130 60 190 L40 240 L92 226 Q170 220 190 160 Z"
        fill="var(--copper-pale)"
        stroke="var(--copper)"
        strokeWidth="3"
      />
      <path d="M190 160 Q150 190 52 228" stroke="var(--copper)" strokeWidth="2" fill="none" />
      <circle cx="210" cy="147" r="13" fill="var(--ground)" stroke="var(--ink)" strokeWidth="7" />
      <circle cx="372" cy="190" r="11" fill="var(--sound)" />
      <path d="M92 100 l13 13 l-13 13 l-13 -13 Z" fill="var(--failed)" />
    </Picture>
  );
}
