/** The take-in while it is written: every field as typed, kept as a draft, and the whole of it once it can be read. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiProblem, type Schema } from "../../api/client";
import { dateCodes, reference, vehicles } from "../../api/queries";
import { newId } from "../../kit/clock";
import { useKept } from "../../kit/drafts";
import { LOOK_AGAIN } from "../../kit/outbox";
import { expectField, holdKeys, typeHeld } from "../../kit/typeAhead";
import { numberOf } from "../../kit/units";
import { clockOf, momentIn } from "../../kit/words";
import { useSettled } from "../../kit/useSettled";
import { t } from "../../language/t";

export type TakeIn = Schema["TakeIn"];

export const SCALES = {
  CCA: "CCA",
  EN: "EN",
  CA: "CA",
  MCA: "MCA",
  HCA: "HCA",
  DIN: "DIN",
  IEC: "IEC",
  JIS: "JIS",
} as const;
export type Scale = keyof typeof SCALES;

const monthText = (iso: string | null | undefined) => (iso ? `${iso.slice(5, 7)}/${iso.slice(2, 4)}` : "");

/** What the label says, as it is typed. */
interface Label {
  volts: "v12" | "v6";
  chemistry: Schema["Chemistry"];
  /** Somebody read the type on the label: what a car asks for does not overwrite it. */
  chemistryRead: boolean;
  rated: string;
  /** Nothing is printed: the figure is a guess, so that work can go on. */
  ratedAssumed: boolean;
  scale: Scale;
  ah: string;
  reserve: string;
  group: string | null;
  /** Somebody read or typed the size: a car that is picked does not lend another. */
  groupRead: boolean;
  line: string;
  serial: string;
  made: string;
  madePicked: string | null;
  caps: "unknown" | "yes" | "no";
}

/** Whose figures somebody typed; the others are lent anew by the car or the catalogue. */
const TYPED: ReadonlySet<string> = new Set(["label", "assumed"]);

function labelOf(label: Schema["Battery"] | undefined): Label {
  return {
    volts: label?.nominal_volts === 6 ? "v6" : "v12",
    chemistry: label?.chemistry ?? "flooded",
    chemistryRead: label?.chemistry_source === "label",
    rated: label?.rating && TYPED.has(label.rating_source ?? "label") ? String(label.rating.amps) : "",
    ratedAssumed: label?.rating_source === "assumed",
    scale: label?.rating?.scale ?? "CCA",
    ah: label?.capacity_ah_20h ? String(label.capacity_ah_20h) : "",
    reserve: label?.reserve_minutes ? String(label.reserve_minutes) : "",
    group: label?.group_code ?? null,
    groupRead: label?.group_code != null && label.size_source === "label",
    line: label?.line ?? "",
    serial: label?.serial ?? "",
    made: monthText(label?.made_on),
    madePicked: label?.made_on ?? null,
    caps: label?.has_caps == null ? "unknown" : label.has_caps ? "yes" : "no",
  };
}

/** How it came and whose it is, as it is typed. */
interface Story {
  context: Schema["Context"];
  sold: string | null;
  customer: string;
  phone: string;
  plate: string;
  /** Whom of the customers known here, where one was picked. */
  customerId?: number | null;
  car: number | null;
  /** Whether somebody waits for it, on which day it was promised (0 is today), and for what time as typed. */
  waits?: boolean;
  promiseDay?: "none" | "0" | "1" | "2";
  promiseTime?: string;
}

const FIRST: Schema["Context"] = {
  came_in: "carried_in",
  complaint: "not_said",
  use: "private",
  stop_start_car: false,
  engine_fuel: "petrol",
  needs_registration: false,
};

const storyOf = (start: TakeIn | null): Story => ({
  context: start?.context ?? FIRST,
  sold: start?.sold_on ?? null,
  customer: start?.customer_name ?? "",
  phone: start?.customer_phone ?? "",
  plate: start?.customer_plate ?? "",
  customerId: start?.customer_id ?? null,
  car: start?.vehicle_id ?? null,
});

/** The faults of what is typed that need no server to be seen. */
function faultsOf(label: Label, story: Story, madeOn: string | null): Record<string, string> {
  const faults: Record<string, string> = {};
  if (label.rated.trim() && numberOf(label.rated) === null)
    faults["battery.rating.amps"] = t("take_in.enter_a_number_such_as_680");
  if (label.ah.trim() && numberOf(label.ah) === null)
    faults["battery.capacity_ah_20h"] = t("take_in.enter_a_number_such_as_70");
  if (label.reserve.trim() && numberOf(label.reserve) === null)
    faults["battery.reserve_minutes"] = t("take_in.enter_minutes_such_as_110");
  if (story.promiseDay && story.promiseDay !== "none" && clockOf(story.promiseTime ?? "") === null)
    faults["promised_at"] = t("screens.enter_a_time_of_day_such_as_17_00");
  if (label.made.trim() && !madeOn) faults["battery.made_on"] = t("take_in.no_way_of_writing_a_date_try_c5_0325_or");
  return faults;
}

function written(label: Label, story: Story, madeOn: string | null): TakeIn {
  const amps = numberOf(label.rated);
  return {
    battery: {
      line: label.line.trim(),
      nominal_volts: label.volts === "v6" ? 6 : 12,
      chemistry: label.chemistry,
      chemistry_source: label.chemistryRead ? "label" : story.car === null ? "assumed" : "vehicle",
      rating: amps === null ? null : { amps, scale: label.scale },
      rating_source: label.ratedAssumed && amps !== null ? "assumed" : "label",
      capacity_ah_20h: numberOf(label.ah),
      reserve_minutes: numberOf(label.reserve),
      group_code: label.group,
      size_source: label.groupRead || label.group === null ? "label" : "vehicle",
      serial: label.serial.trim(),
      made_on: madeOn,
      has_caps: label.caps === "unknown" ? null : label.caps === "yes",
    },
    context: story.context,
    sold_on: story.sold,
    customer_name: story.customer.trim(),
    customer_phone: story.phone.trim(),
    customer_plate: story.plate.trim(),
    customer_id: story.customerId ?? null,
    vehicle_id: story.car,
    promised_at: promisedAt(story),
    waits: story.waits ?? false,
  };
}

/** The moment that was promised, by the shop's clock; null where none was. */
function promisedAt({ promiseDay, promiseTime }: Story): string | null {
  if (!promiseDay || promiseDay === "none") return null;
  const clock = clockOf(promiseTime ?? "");
  return clock === null ? null : momentIn(Number(promiseDay), clock);
}

/** `labelIsRight` says that somebody looked again at a label whose figures hardly go together. */
export type Write = (written: TakeIn, writeId: string, labelIsRight: boolean) => Promise<void>;

export function useTakeIn(start: TakeIn | null, onWrite: Write) {
  const client = useQueryClient();
  const { data: known } = useQuery(reference);
  const [label, setLabel] = useKept<Label>("label", () => labelOf(start?.battery));
  const [story, setStory] = useKept<Story>("story", () => storyOf(start));
  // The name of this write: whatever happens to its answer, it is done once.
  const [writeId, setWriteId] = useKept<string | null>("writeId", null);
  const [carText, setCarText] = useState("");
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const [local, setLocal] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);

  const { data: months } = useQuery(dateCodes(useSettled(label.made, 150), story.sold));
  const isLong = known !== undefined && known.cars_in_all > known.cars.length;
  const { data: foundCars } = useQuery(vehicles(useSettled(carText, 150), isLong));
  const cars = isLong ? [...(foundCars ?? []), ...known.cars] : (known?.cars ?? []);
  const carFound = cars.find((one) => one.id === story.car);
  const madeOn = label.made.trim() === "" ? null : (label.madePicked ?? months?.[0]?.made_on ?? null);

  const change = (next: Partial<Label>) => setLabel((before) => ({ ...before, ...next }));
  const tell = (next: Partial<Story>) => setStory((before) => ({ ...before, ...next }));

  function pickCar(id: string | null) {
    tell({ car: id === null ? null : Number(id) });
    if (id === null && !label.groupRead) change({ group: null }); // what it lent goes with it
    const car = cars.find((one) => String(one.id) === id);
    if (!car) return;
    setStory((before) => ({ ...before, context: { ...before.context, stop_start_car: car.stop_start } }));
    // guesses until somebody reads the label
    if (!label.groupRead) change({ group: car.group_code });
    if (!label.chemistryRead) change({ chemistry: car.chemistry });
  }

  /** The month that is meant: picked, or the most plausible; asked for now when typing was quicker than the answer. */
  async function monthMeant(): Promise<string | null> {
    if (label.made.trim() === "") return null;
    return label.madePicked ?? (await client.fetchQuery(dateCodes(label.made, story.sold)))[0]?.made_on ?? null;
  }

  async function write(labelIsRight = false) {
    if (busy) return;
    setBusy(true);
    const release = holdKeys(); // what is typed meanwhile belongs to the battery that comes of this
    try {
      const month = await monthMeant().catch(() => madeOn);
      const faults = faultsOf(label, story, month);
      setLocal(faults);
      if (Object.keys(faults).length > 0) return;
      const name = writeId ?? newId();
      setWriteId(name);
      await onWrite(written(label, story, month), name, labelIsRight);
      expectField("desk"); // its check is on the way
    } catch (error) {
      const refusal = error instanceof ApiProblem ? error : null;
      if (refusal?.status === 409) setWriteId(null);
      setProblem(refusal ?? new ApiProblem(0, t("take_in.the_server_does_not_answer_nothing_typed")));
    } finally {
      setBusy(false);
      release();
      void typeHeld();
    }
  }

  return {
    known,
    cars,
    carFound,
    label,
    change,
    story,
    tell,
    months,
    madeOn,
    problem,
    /** The server asks whether the label was read right. */
    asksLabel: problem?.message === LOOK_AGAIN,
    busy,
    /** It is being taken in: a promise is made now; later it is changed at the rack. */
    isNew: start === null,
    /** As it would be written now, for what can be said of it beforehand. */
    now: written(label, story, madeOn),
    write,
    pickCar,
    isLong,
    typeCar: setCarText,
    /** What is wrong, by the name of its field. */
    errors: { ...Object.fromEntries((problem?.errors ?? []).map((one) => [one.path, one.message])), ...local },
    wrong: (path: string) => local[path] ?? problem?.of(path),
  };
}

export type Writing = ReturnType<typeof useTakeIn>;
