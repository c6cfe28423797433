/** The take-in: how it came, what is wrong, what the label says. What is typed stays until it is written or thrown away. */
import { useContext, useLayoutEffect, useState, type ReactNode } from "react";
import { CasePicture } from "../../case/CasePicture";
import { OutlineSheet } from "../../kit/Outline";
import { Drafting } from "../../kit/drafts";
import { Button, Caution, Key_ } from "../../kit/parts";
import { expectField, fieldStands } from "../../kit/typeAhead";
import { CHEMISTRIES } from "../../kit/words";
import { LabelFields } from "./LabelFields";
import { Fault, Sheet } from "./layout";
import { PromiseSaid } from "./Promised";
import { StoryFields } from "./StoryFields";
import { useTakeIn, type TakeIn, type Write } from "./takeIn";
import { t } from "../../language/t";
import styled from "styled-components";

const Outside = styled.div`
  width: 190px;
`;

/** An Enter that follows so soon on the one before was meant for that one, or is held down. */
const SECOND_ENTER_MS = 800;

interface Props {
  start: TakeIn | null;
  title: string;
  action: string;
  onWrite: Write;
  /** Begin anew: what was half typed is thrown away. */
  onThrowAway: () => void;
  children?: ReactNode;
}

export function TakeInForm({ start, title, action, onWrite, onThrowAway, children }: Props) {
  const form = useTakeIn(start, onWrite);
  const draft = useContext(Drafting);
  const { known, carFound, label, problem } = form;
  // Figures typed before the first field stands are its own.
  const stands = known !== undefined;
  useLayoutEffect(() => (stands ? fieldStands() : expectField()), [stands]);
  // Of a battery of which nothing is written it is asked once more: a late Enter was meant for the battery before.
  const [askedAt, setAskedAt] = useState(0);
  const isBare = form.isNew && draft?.get("label") === undefined && draft?.get("story") === undefined;
  function submit() {
    const since = Date.now() - askedAt;
    if (isBare && (askedAt === 0 || since < SECOND_ENTER_MS)) setAskedAt(Date.now());
    else void form.write();
  }
  if (!known) return <OutlineSheet />;
  return (
    <Sheet
      validationErrors={form.errors}
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
      aria-label={title}
    >
      <section>
        <h1>{title}</h1>
        <StoryFields form={form} />
      </section>
      <section>
        <LabelFields form={form} known={known} />
      </section>
      <section>
        {!children && (
          <Outside>
            <CasePicture
              size={known.sizes.find((one) => one.code === label.group) ?? null}
              volts={label.volts === "v6" ? 6 : 12}
            />
          </Outside>
        )}
        {carFound && !children && (
          <p>
            {t("take_in_form.asks_for_group_cca", {
              name: carFound.name,
              group_code: carFound.group_code,
              min_cca_amps: carFound.min_cca_amps,
              chemistry: CHEMISTRIES[carFound.chemistry],
            })}
          </p>
        )}
        {form.isNew && <PromiseSaid form={form} />}
        {problem && <Fault role="alert">{problem.message}</Fault>}
        {isBare && askedAt > 0 && <p role="status">{t("take_in_form.nothing_is_written_of_it_yet_once_more_and")}</p>}
        {children}
        {form.asksLabel && (
          <Button $tone="copper" onPress={() => void form.write(true)}>
            {t("screens.it_says_so_take_it_as_it_is")}
          </Button>
        )}
        <Button type="submit" $tone="strong" isDisabled={form.busy}>
          {action} <Key_>↵</Key_>
        </Button>
        {draft?.isThere && <Button onPress={onThrowAway}>{t("screens.throw_away_what_is_typed")}</Button>}
        {known.cautions["take_in"]?.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
      </section>
    </Sheet>
  );
}
