/** The battery that was touched on its board: what is set, where it goes, what was promised; everything a drag does, by keys too. */
import { useEffect, useRef } from "react";
import type { Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { useQuery } from "@tanstack/react-query";
import { battery } from "../../api/queries";
import { logOf } from "../check/charges";
import { ChargeCurve } from "../check/ChargeCurve";
import { nowMs } from "../../kit/clock";
import { Button, Choice } from "../../kit/parts";
import { clockWords } from "../../kit/words";
import { Acts, Fault, Figures, Sheet, ToCheck, useFigures } from "./Card";
import { PromiseEdit } from "./PromiseEdit";
import { useWork, type Rack } from "./work";
import { t } from "../../language/t";
import styled from "styled-components";

const Head = styled(Acts)`
  justify-content: space-between;
`;

interface Props {
  tag: number;
  rack: Rack;
  shown: Schema["ShelfBattery"] | undefined;
  onClose: () => void;
}

export function Chosen({ tag, rack, shown, onClose }: Props) {
  const box = useRef<HTMLFormElement>(null);
  const figures = useFigures();
  const { work, busy, said, fault } = useWork(figures.clear);
  const { data: seen } = useQuery(battery(tag));
  const slot = rack.slots.find((one) => one.tag === tag);
  const now = new Date(nowMs());
  const name = slot ? nameOf(rack, slot.charger_id, slot.output) : "";
  const places = placesOf(rack);
  const here = slot ? `${slot.charger_id}-${slot.output}` : null;
  useEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" }); // newer browsers answer with a promise: no way to undo an effect
  }, [tag]);

  function setOn(place: string) {
    const [charger = 0, output = 1] = place.split("-").map(Number);
    if (place === here && !slot?.pinned && !slot?.hangs) work({ does: "pin", tag, charger_id: charger, output });
    else if (place === here) return;
    else if (slot && !slot.hangs) work({ does: "pin", tag, charger_id: charger, output });
    else work({ does: "connect", tag, charger_id: charger, output });
  }
  return (
    <Sheet
      ref={box}
      $tone="line"
      aria-label={t("chosen.battery_at_the_rack", { tag })}
      onSubmit={(event) => {
        event.preventDefault();
        if (slot?.hangs && figures.isBoth) work({ does: "note", tag, figures: figures.read });
      }}
    >
      <Head>
        <h2>
          {tag} {shown?.line}
        </h2>
        <Button type="button" onPress={onClose} aria-label={t("chosen.close", { tag })}>
          ✕
        </Button>
      </Head>
      {slot && (
        <p>
          {t("chosen.tested", {
            name,
            mode: slot.mode && `, ${slot.mode}`,
            set_words: slot.set_words,
            t: slot.hangs
              ? t("chosen.off", { ends_at: clockWords(slot.ends_at, now) })
              : t("chosen.on_off", { on_at: clockWords(slot.on_at, now), off_at: clockWords(slot.off_at, now) }),
            ready_at: clockWords(slot.ready_at, now),
          })}
          {slot.pinned && t("chosen.set_by_hand")}
        </p>
      )}
      {!slot && shown?.place === "on_charge" && <p>{t("chosen.on_charge_and_nobody_said_on_which_charger")}</p>}
      {slot?.hangs && seen && <Curve view={seen} />}
      {slot?.hangs && <Figures of={figures} fault={fault} />}
      {said && <Fault>{said}</Fault>}
      <Acts>
        {slot?.hangs && (
          <>
            <Button type="submit" $tone="copper" isDisabled={busy || !figures.isBoth}>
              {t("screens.note")}
            </Button>
            <Button
              type="button"
              isDisabled={busy}
              onPress={() => work({ does: "off", tag, how: "full", figures: figures.read })}
            >
              {t("screens.full_off")}
            </Button>
            <Button
              type="button"
              isDisabled={busy}
              onPress={() => work({ does: "off", tag, how: "early", figures: figures.read })}
            >
              {t("screens.off_early")}
            </Button>
          </>
        )}
        {slot && !slot.hangs && (
          <Button
            type="button"
            $tone="copper"
            isDisabled={busy}
            onPress={() => work({ does: "connect", tag, charger_id: slot.charger_id, output: slot.output })}
          >
            {t("chosen.clamped_on_now")}
          </Button>
        )}
        {slot?.pinned && !slot.hangs && (
          <Button type="button" onPress={() => work({ does: "pin", tag, charger_id: null, output: 1 })}>
            {t("chosen.leave_it_to_the_plan")}
          </Button>
        )}
        <ToCheck href={`/check/${tag}`}>{t("screens.check")}</ToCheck>
        <ToCheck href={linkTo("/api/batteries/{tag}/rack-tag.pdf", { tag })} target="_blank">
          {t("chosen.tag")}
        </ToCheck>
      </Acts>
      {Object.keys(places).length > 0 && (
        <Choice
          label={slot?.hangs || !slot ? t("chosen.clamp_it_to") : t("chosen.set_it_on")}
          value={here}
          words={places}
          onChange={setOn}
        />
      )}
      <PromiseEdit
        key={slot?.promised_at ?? ""}
        promisedAt={slot?.promised_at ?? null}
        priority={slot?.priority ?? "ordinary"}
        busy={busy}
        fault={fault("promised_at")}
        onPromise={(promised_at, priority, closedIsRight) =>
          work({ does: "promise", tag, promised_at, priority, closedIsRight })
        }
      />
    </Sheet>
  );
}

/** The charge so far beside how it should go. */
function Curve({ view }: { view: Schema["CheckView"] }) {
  const last = view.readings.filter(({ reading, corrected }) => reading.kind === "charge_run" && !corrected).at(-1);
  const noted = logOf(last?.reading);
  if (!last || !noted) return null;
  const put = view.judgement.findings.find(({ reading_id }) => reading_id === last.reading.id)?.figures?.[0];
  const values = { log: noted.map(({ minutes, amps }) => `${minutes} ${amps}`) };
  return <ChargeCurve plan={view.limits.plan} values={values} ah={view.battery.capacity_ah_20h} put={put} />;
}

function nameOf(rack: Rack, chargerId: number, output: number): string {
  const charger = rack.chargers.find(({ id }) => id === chargerId);
  if (!charger) return "";
  return charger.outputs > 1 ? `${charger.name}/${output}` : charger.name;
}

function placesOf(rack: Rack): Record<string, string> {
  return Object.fromEntries(
    rack.chargers
      .filter(({ state }) => state === "in_use")
      .flatMap(({ id, outputs }) =>
        Array.from({ length: outputs }, (_, index) => [`${id}-${index + 1}`, nameOf(rack, id, index + 1)]),
      ),
  );
}
