/** The take-in: how it came, what is wrong, what the label says. Number pad first, defaults that are usually right. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { DateField, DateInput, DateSegment, FieldError, Label } from "react-aria-components";
import { parseDate } from "@internationalized/date";
import styled from "styled-components";
import { ApiProblem, type Schema } from "../../api/client";
import { dateCodes, reference } from "../../api/queries";
import { useSettled } from "../check/drafts";
import { CasePicture } from "../../case/CasePicture";
import { Button, Caution, Choice, Entry, labelStyle, Pick } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, USES } from "../../kit/words";

type TakeIn = Schema["TakeIn"];
export type Battery = Schema["Battery"];

const Sheet = styled.form`
  height: 100%;
  min-height: 0;
  display: grid;
  grid-template-columns: 1.12fr 1.25fr 250px;
  overflow: hidden;
  & > section {
    padding: 16px 20px;
    overflow: auto;
    display: flex;
    flex-direction: column;
    gap: 13px;
  }
  & > section + section {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 24px;
    line-height: 1.1;
  }
  h2 {
    font-size: 17px;
  }
`;
const Row = styled.div<{ $columns?: string }>`
  display: grid;
  gap: 12px;
  grid-template-columns: ${({ $columns }) => $columns ?? "1fr 1fr"};
  align-items: start;
`;
const DateLabel = styled(Label)`
  ${labelStyle}
`;
const DateBox = styled(DateInput)`
  display: flex;
  align-items: center;
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  &[data-focus-within] {
    border-color: var(--ink);
    box-shadow: 0 0 0 2px var(--ink);
  }
  &[data-invalid] {
    border-color: var(--failed);
  }
`;
const Segment = styled(DateSegment)`
  padding: 2px 3px;
  border-radius: 4px;
  &[data-placeholder] {
    color: var(--soft);
  }
  &:focus {
    background: var(--ink);
    color: var(--on-ink);
    outline: none;
  }
`;
const Wrong = styled(FieldError)`
  display: block;
  color: var(--failed);
  font-size: 14px;
  font-weight: 600;
`;
const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;

const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" } as const;
const CAPS = { unknown: "?", yes: "Yes", no: "Sealed" } as const;
const VOLTS = { v12: "12 V", v6: "6 V" } as const;

const monthText = (iso: string | null | undefined) => (iso ? `${iso.slice(5, 7)}/${iso.slice(2, 4)}` : "");
const monthWords = (iso: string) => new Date(iso).toLocaleDateString("en-GB", { month: "short", year: "numeric" });

interface Props {
  store: Schema["StoreView"];
  start: TakeIn | null;
  title: string;
  action: string;
  onWrite: (written: TakeIn) => Promise<void>;
}

export function TakeInForm({ store, start, title, action, onWrite }: Props) {
  const client = useQueryClient();
  const { data: known } = useQuery(reference);
  const label = start?.battery;
  const [context, setContext] = useState<Schema["Context"]>(
    start?.context ?? { came_in: "carried_in", complaint: "will_not_start", use: "private", stop_start_car: false },
  );
  const [volts, setVolts] = useState<keyof typeof VOLTS>(label?.nominal_volts === 6 ? "v6" : "v12");
  const [chemistry, setChemistry] = useState<Schema["Chemistry"]>(label?.chemistry ?? "flooded");
  const [rated, setRated] = useState(label?.rating && label.rating_source === "label" ? String(label.rating.amps) : "");
  const [scale, setScale] = useState<keyof typeof SCALES>(label?.rating?.scale ?? "CCA");
  const [ah, setAh] = useState(label?.capacity_ah_20h ? String(label.capacity_ah_20h) : "");
  const [group, setGroup] = useState<string | null>(label?.group_code ?? null);
  const [line, setLine] = useState(label?.line ?? "");
  const [serial, setSerial] = useState(label?.serial ?? "");
  const [made, setMade] = useState(monthText(label?.made_on));
  const [madePicked, setMadePicked] = useState<string | null>(null);
  const [caps, setCaps] = useState<keyof typeof CAPS>(
    label?.has_caps == null ? "unknown" : label.has_caps ? "yes" : "no",
  );
  const [sold, setSold] = useState(start?.sold_on ?? null);
  const [customer, setCustomer] = useState(start?.customer_name ?? "");
  const [phone, setPhone] = useState(start?.customer_phone ?? "");
  const [car, setCar] = useState<number | null>(start?.vehicle_id ?? null);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const [local, setLocal] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);

  const { data: months } = useQuery(dateCodes(useSettled(made, 150), sold));
  const madeOn = made.trim() === "" ? null : (madePicked ?? months?.[0]?.made_on ?? null);

  const wrong = (path: string) => local[path] ?? problem?.of(path);
  const size = known?.sizes.find((one) => one.code === group) ?? null;
  const carFound = known?.cars.find((one) => one.id === car);

  function pickCar(id: string | null) {
    setCar(id === null ? null : Number(id));
    const found = known?.cars.find((one) => String(one.id) === id);
    if (!found) return;
    setContext((before) => ({ ...before, stop_start_car: found.stop_start }));
    if (!group) setGroup(found.group_code);
    if (found.chemistry !== "flooded" && chemistry === "flooded") setChemistry(found.chemistry as Schema["Chemistry"]);
  }

  function written(madeOn: string | null): TakeIn | null {
    const faults: Record<string, string> = {};
    const amps = numberOf(rated);
    if (rated.trim() && amps === null) faults["battery.rating.amps"] = "Enter a number, such as 680";
    const capacity = numberOf(ah);
    if (ah.trim() && capacity === null) faults["battery.capacity_ah_20h"] = "Enter a number, such as 70";
    if (made.trim() && !madeOn) faults["battery.made_on"] = "No way of writing a date: try C5, 0325 or 2512";
    setLocal(faults);
    if (Object.keys(faults).length > 0) return null;
    return {
      battery: {
        line: line.trim(),
        nominal_volts: volts === "v6" ? 6 : 12,
        chemistry,
        rating: amps === null ? null : { amps, scale },
        rating_source: "label",
        capacity_ah_20h: capacity,
        group_code: group,
        serial: serial.trim(),
        made_on: madeOn,
        has_caps: caps === "unknown" ? null : caps === "yes",
      },
      context,
      sold_on: sold,
      customer_name: customer.trim(),
      customer_phone: phone.trim(),
      vehicle_id: car,
    };
  }

  /** The month that is meant: picked, or the most plausible; asked for now when typing was quicker than the answer. */
  async function monthMeant(): Promise<string | null> {
    if (made.trim() === "") return null;
    return madePicked ?? (await client.fetchQuery(dateCodes(made, sold)))[0]?.made_on ?? null;
  }

  async function write() {
    if (busy) return;
    const asWritten = written(await monthMeant().catch(() => madeOn));
    if (!asWritten) return;
    setBusy(true);
    try {
      await onWrite(asWritten);
    } catch (error) {
      setProblem(
        error instanceof ApiProblem
          ? error
          : new ApiProblem(0, "The server does not answer: nothing typed is lost, try again"),
      );
    } finally {
      setBusy(false);
    }
  }

  if (!known) return null;
  return (
    <Sheet
      onSubmit={(event) => {
        event.preventDefault();
        void write();
      }}
      aria-label={title}
    >
      <section>
        <h1>{title}</h1>
        <Choice
          label="How it came"
          value={context.came_in ?? null}
          words={CAME_IN}
          onChange={(came_in) => setContext({ ...context, came_in })}
        />
        <Choice
          label="What is wrong"
          value={context.complaint ?? null}
          words={COMPLAINTS}
          onChange={(complaint) => setContext({ ...context, complaint })}
        />
        <Choice
          label="What it is used for"
          value={context.use ?? null}
          words={USES}
          onChange={(use) => setContext({ ...context, use })}
        />
        <Row $columns="1fr auto">
          <Pick
            label="Car, if known"
            value={car === null ? null : String(car)}
            onChange={pickCar}
            options={known.cars.map((one) => ({ id: String(one.id), name: one.name, note: one.years }))}
            placeholder="type make or model"
            problem={wrong("vehicle_id")}
          />
          <Choice
            label="Stop-start"
            value={context.stop_start_car ? "yes" : "no"}
            words={{ no: "No", yes: "Yes" }}
            onChange={(answer) => setContext({ ...context, stop_start_car: answer === "yes" })}
          />
        </Row>
        <Row>
          <Entry
            label="Customer"
            value={customer}
            onChange={setCustomer}
            numeric={false}
            problem={wrong("customer_name")}
          />
          <Entry label="Phone" value={phone} onChange={setPhone} problem={wrong("customer_phone")} />
        </Row>
      </section>
      <section>
        <h2>The label</h2>
        <Row $columns="1fr auto">
          <Entry
            label="Rated figure"
            value={rated}
            onChange={setRated}
            unit="A"
            big
            autoFocus
            problem={wrong("battery.rating.amps")}
            placeholder="none on it"
          />
          <Choice label="Volts" value={volts} words={VOLTS} onChange={setVolts} />
        </Row>
        <Choice label="Scale of the rated figure" value={scale} words={SCALES} onChange={setScale} />
        {scale !== "CCA" && known.scales[scale] && (
          <p style={{ color: "var(--soft)", fontSize: 15 }}>
            {scale}: {known.scales[scale].definition}; about {known.scales[scale].amps_per_sae_cca_amp} of the CCA, ±
            {Math.round(known.scales[scale].relative_spread * 100)} % ({known.scales[scale].standing})
          </p>
        )}
        {wrong("battery.rating.scale") && <Fault role="alert">{wrong("battery.rating.scale")}</Fault>}
        <Row $columns="auto auto">
          <Choice label="Chemistry" value={chemistry} words={CHEMISTRIES} onChange={setChemistry} />
          <Choice label="Caps" value={caps} words={CAPS} onChange={setCaps} />
        </Row>
        <Row $columns="1fr 1fr 1fr">
          <Pick
            label="Group or box size"
            value={size ? group : null}
            text={group ?? ""}
            allowsOther={(text) => setGroup(text.trim() === "" ? null : text)}
            onChange={(code) => code && setGroup(code)}
            options={known.sizes.map((one) => ({
              id: one.code,
              name: one.code,
              note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${one.positive_side}`,
            }))}
            placeholder="48, 24F, LN3"
            problem={wrong("battery.group_code")}
          />
          <Entry label="Capacity" value={ah} onChange={setAh} unit="Ah" problem={wrong("battery.capacity_ah_20h")} />
          <Entry
            label="Date code"
            value={made}
            onChange={(text) => {
              setMade(text);
              setMadePicked(null);
            }}
            numeric={false}
            placeholder="C5, 0325"
            problem={wrong("battery.made_on")}
          />
        </Row>
        {months && months.length > 0 && made.trim() !== "" && (
          <Choice
            label="Made in"
            value={madeOn}
            words={Object.fromEntries(
              months
                .slice(0, 4)
                .map((one) => [one.made_on, `${monthWords(one.made_on)}${one.plausibility < 0.5 ? " ?" : ""}`]),
            )}
            onChange={setMadePicked}
          />
        )}
        <Row $columns="1.2fr 1fr 1fr">
          <Pick
            label="Line"
            value={known.lines.includes(line) ? line : null}
            text={line}
            allowsOther={setLine}
            onChange={(id) => id && setLine(id)}
            options={known.lines.map((one) => ({ id: one, name: one }))}
            placeholder="as printed"
          />
          <DateField
            validationBehavior="aria"
            value={sold ? parseDate(sold) : null}
            onChange={(day) => setSold(day ? day.toString() : null)}
            isInvalid={wrong("sold_on") !== undefined}
          >
            <DateLabel>Sold by us on</DateLabel>
            <DateBox>{(segment) => <Segment segment={segment} />}</DateBox>
            <Wrong>{wrong("sold_on")}</Wrong>
          </DateField>
          <Entry label="Serial" value={serial} onChange={setSerial} numeric={false} problem={wrong("battery.serial")} />
        </Row>
      </section>
      <section>
        <CasePicture size={size} store={store} />
        {carFound && (
          <p>
            {carFound.name} asks for group {carFound.group_code}, {carFound.min_cca_amps} CCA,{" "}
            {CHEMISTRIES[carFound.chemistry as Schema["Chemistry"]]}
          </p>
        )}
        {problem && <Fault role="alert">{problem.message}</Fault>}
        <Button type="submit" $tone="strong" isDisabled={busy}>
          {action}
        </Button>
        {known.cautions["take_in"]?.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
      </section>
    </Sheet>
  );
}
