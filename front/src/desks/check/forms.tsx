/** The two rungs every check has: volts at rest and the electronic tester. */
import { useEffect } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { useKept } from "../../kit/drafts";
import { Choice, Entry, Figure, Soft } from "../../kit/parts";
import { celsiusOf, numberOf, shownTemperature, temperatureUnit, voltsOf } from "../../kit/units";
import { CHEMISTRIES, CLAMPED, MESSAGES, SETTLED, TYPES } from "../../kit/words";
import { PullTimer } from "./PullTimer";
import type { FormProps } from "./spec";

const Row = styled.div`
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
  align-items: flex-start;
`;
const Wide = styled.div<{ $wide: number }>`
  width: ${({ $wide }) => $wide}px;
`;
const Note = styled.p`
  font-size: 15px;
  color: var(--soft);
`;

export function VoltsForm({ start: kept, limits, store, says, fault, onType, onKeep }: FormProps) {
  const start = kept as Schema["RestVolts"] | null;
  const [volts, setVolts] = useKept("volts", start ? start.volts.toFixed(2) : "");
  const [settled, setSettled] = useKept<Schema["Settled"]>("settled", start?.settled ?? "rested");
  const [afterCharge, setAfterCharge] = useKept("afterCharge", start?.after_full_charge ?? false);
  const [hours, setHours] = useKept("hours", start?.rested_hours != null ? String(start.rested_hours) : "");
  const [confirmed, setConfirmed] = useKept("confirmed", start?.confirmed ?? false);
  const [warmth, setWarmth] = useKept("warmth", () => {
    const celsius = start?.temperature_c ?? store.bay_temperature_c;
    return celsius == null ? "" : String(Math.round(shownTemperature(celsius, store)));
  });
  const value = voltsOf(volts);
  const rested = numberOf(hours);
  const degrees = numberOf(warmth);
  const body: Partial<Schema["RestVolts"]> | null =
    value === null
      ? null
      : {
          volts: value,
          settled,
          after_full_charge: afterCharge && settled !== "just_charged",
          rested_hours: settled === "rested" ? rested : null,
          confirmed,
          temperature_c: degrees === null ? null : Math.round(celsiusOf(degrees, store) * 10) / 10,
        };
  const said = JSON.stringify(body);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is typed changes
  useEffect(() => onType(body), [said]);
  const notANumber = volts.trim() !== "" && value === null ? "Enter volts, such as 12.58" : undefined;
  const absurd = says?.rule === "doubt_below_volts";
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (body) onKeep(body);
      }}
    >
      <Row>
        <Wide $wide={150}>
          <Entry
            label="Volts at rest"
            value={volts}
            onChange={setVolts}
            unit="V"
            big
            autoFocus
            problem={notANumber ?? fault("volts")}
            placeholder="12.58"
            name="volts"
          />
        </Wide>
        <Choice label="How it settled" value={settled} words={SETTLED} onChange={setSettled} />
        <Wide $wide={92}>
          <Entry
            label="Battery at"
            value={warmth}
            onChange={setWarmth}
            unit={temperatureUnit(store)}
            problem={fault("temperature_c")}
          />
        </Wide>
        {settled === "rested" && (
          <Wide $wide={92}>
            <Entry label="Rested" value={hours} onChange={setHours} unit="h" problem={fault("rested_hours")} />
          </Wide>
        )}
        {settled !== "just_charged" && (
          <Choice
            label="After a full charge"
            value={afterCharge ? "yes" : "no"}
            words={{ no: "No", yes: "Yes" }}
            onChange={(answer) => setAfterCharge(answer === "yes")}
          />
        )}
        {(absurd || confirmed) && (
          <Choice
            label="Cleaned and measured again, the same"
            value={confirmed ? "yes" : "no"}
            words={{ no: "No", yes: "Yes" }}
            onChange={(answer) => setConfirmed(answer === "yes")}
          />
        )}
      </Row>
      <Note>
        Can be judged from <Figure>{limits.recharge_line_volts.toFixed(2)}</Figure> <Soft>V</Soft> up. Rest it
        {limits.rest_hours > 0 && (
          <>
            {" "}
            <Figure>{limits.rest_hours}</Figure> <Soft>h</Soft>
          </>
        )}
        , or <Figure>{limits.headlamp_seconds / 60}</Figure> <Soft>min</Soft> of headlamps.
      </Note>
      {settled === "headlamps" && <PullTimer seconds={limits.headlamp_seconds} label="Headlamps on" />}
      <button type="submit" className="quiet" tabIndex={-1}>
        Keep
      </button>
    </form>
  );
}

const TYPE_OF: Record<Schema["Chemistry"], Schema["TypeSet"]> = {
  flooded: "flooded",
  calcium: "flooded",
  efb: "efb",
  agm: "agm_flat",
  gel: "gel",
};
const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" } as const;
const PLACES = { no: "Out of the car", yes: "In the car" } as const;
const WHEN = { unset: "Not asked", before: "Before charge", after: "After charge" } as const;
const POSTS = { yes: "Clean", no: "Corroded" } as const;

const OWN_MESSAGES = { none: "None", ...MESSAGES };

export function TesterForm({ start: kept, battery, limits, fault, onType, onKeep }: FormProps) {
  const start = kept as Schema["ElectronicTester"] | null;
  const [cca, setCca] = useKept("cca", start ? String(start.measured_cca_amps) : "");
  const [type, setType] = useKept<Schema["TypeSet"]>(
    "type",
    start?.type_set ?? TYPE_OF[battery.chemistry ?? "flooded"],
  );
  const [clamped, setClamped] = useKept<Schema["Clamped"]>("clamped", start?.clamped ?? "lead_posts");
  const [scale, setScale] = useKept<keyof typeof SCALES>(
    "scale",
    (start?.scale_set as keyof typeof SCALES | undefined) ?? battery.rating?.scale ?? "CCA",
  );
  const [message, setMessage] = useKept<Schema["TesterMessage"] | "none">("message", start?.message ?? "none");
  const [health, setHealth] = useKept("health", start?.health_pct != null ? String(start.health_pct) : "");
  const [ratedSet, setRatedSet] = useKept(
    "ratedSet",
    start?.rated_set_amps != null ? String(start.rated_set_amps) : "",
  );
  const [inCar, setInCar] = useKept<"yes" | "no">("inCar", start?.in_vehicle ? "yes" : "no");
  const [posts, setPosts] = useKept<"yes" | "no">("posts", start?.posts_clean === false ? "no" : "yes");
  const [when, setWhen] = useKept<keyof typeof WHEN>("when", start?.charge_setting ?? "unset");
  const [soc, setSoc] = useKept("soc", start?.state_of_charge_pct != null ? String(start.state_of_charge_pct) : "");
  const value = numberOf(cca);
  const body: Partial<Schema["ElectronicTester"]> | null =
    value === null
      ? null
      : {
          measured_cca_amps: value,
          type_set: type,
          scale_set: scale,
          clamped,
          charge_setting: when === "unset" ? null : when,
          state_of_charge_pct: numberOf(soc),
          in_vehicle: inCar === "yes",
          posts_clean: posts === "yes",
          message: message === "none" ? null : message,
          health_pct: numberOf(health),
          rated_set_amps: numberOf(ratedSet),
        };
  const said = JSON.stringify(body);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is typed changes
  useEffect(() => onType(body), [said]);
  const notANumber = cca.trim() !== "" && value === null ? "Enter amps, such as 412" : undefined;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (body) onKeep(body);
      }}
      style={{ display: "grid", gap: 10 }}
    >
      <Row>
        <Wide $wide={150}>
          <Entry
            label="Measured"
            value={cca}
            onChange={setCca}
            unit={scale}
            big
            autoFocus
            problem={notANumber ?? fault("measured_cca_amps")}
            name="cca"
          />
        </Wide>
        <Choice
          label={`Tester set to (label: ${CHEMISTRIES[battery.chemistry ?? "flooded"]})`}
          value={type}
          words={TYPES}
          onChange={setType}
        />
      </Row>
      <Row>
        <Choice label="Clamped on" value={clamped} words={CLAMPED} onChange={setClamped} />
        <Choice label="Set to" value={when} words={WHEN} onChange={setWhen} />
        <Choice label="Posts" value={posts} words={POSTS} onChange={setPosts} />
        <Choice label="Tested" value={inCar} words={PLACES} onChange={setInCar} />
        <Choice label="Scale set" value={scale} words={SCALES} onChange={setScale} />
      </Row>
      <Row>
        <Choice label="Its own message" value={message} words={OWN_MESSAGES} onChange={setMessage} />
        <Wide $wide={100}>
          <Entry label="Its health" value={health} onChange={setHealth} unit="%" problem={fault("health_pct")} />
        </Wide>
        <Wide $wide={100}>
          <Entry label="Its charge" value={soc} onChange={setSoc} unit="%" problem={fault("state_of_charge_pct")} />
        </Wide>
        <Wide $wide={110}>
          <Entry
            label="Rated set"
            value={ratedSet}
            onChange={setRatedSet}
            unit="A"
            placeholder={battery.rating ? String(battery.rating.amps) : ""}
            problem={fault("rated_set_amps")}
          />
        </Wide>
      </Row>
      {limits.replace_below_amps === null ? (
        <Note>No rated figure on record: correct the label, or the tester has nothing to be held against.</Note>
      ) : (
        <Note>
          Held against {limits.rating_words}: replace below <Figure>{Math.round(limits.replace_below_amps)}</Figure>{" "}
          <Soft>{battery.rating?.scale ?? "CCA"}</Soft>
        </Note>
      )}
      <button type="submit" className="quiet" tabIndex={-1}>
        Keep
      </button>
    </form>
  );
}
