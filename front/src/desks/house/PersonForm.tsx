/** One person: name, role, PIN; let go, taken back, a wait lifted. */
import { useState } from "react";
import { Form } from "react-aria-components";
import { api, asked, type Schema } from "../../api/client";
import { Button, Choice, Entry, Soft } from "../../kit/parts";
import { Acts, Fault, Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { WorksIn } from "./WorksIn";
import { ROLE_NAMES, ROLES } from "./words";
import { t } from "../../language/t";

interface Props {
  row: Schema["PersonRow"] | null;
  isOwner: boolean;
  /** Really an owner, who gives stores; a house without one is changed by its leads. */
  owns: boolean;
  onDone: (house: Schema["HouseView"]) => void;
  onLeave: () => void;
}

export function PersonForm({ row, isOwner, owns, onDone, onLeave }: Props) {
  const [name, setName] = useState(row?.name ?? "");
  const [role, setRole] = useState<Schema["Role"]>(row?.role ?? "counter");
  const [pin, setPin] = useState("");
  const write = useWrite((worksHere: boolean, named) => {
    const body = { name, role, works_here: worksHere, pin: pin || null };
    return asked(
      row
        ? api.PUT("/api/house/people/{staff_id}", { params: { ...named, path: { staff_id: row.id } }, body })
        : api.POST("/api/house/people", { params: named, body }),
    );
  }, onDone);
  const unlock = useWrite(
    (staffId: number, named) =>
      asked(
        api.POST("/api/house/people/{staff_id}/unlock", {
          params: { ...named, path: { staff_id: staffId } },
          body: {},
        }),
      ),
    onDone,
  );
  const worksHere = row === null || row.left_at === null;
  const mayGive: Schema["Role"][] = isOwner ? ["counter", "lead", "owner"] : row ? [row.role] : ["counter"];
  const beside = write.beside("name", "role", "pin") ?? unlock.beside();
  return (
    <Form
      aria-label={row ? t("Change {0}", row.name) : t("Write somebody in")}
      style={{ display: "grid", gap: 12 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) write.write(worksHere);
      }}
    >
      <h2>{row ? row.name : t("Somebody new")}</h2>
      <Figures>
        <Entry
          label={t("Name")}
          value={name}
          onChange={setName}
          numeric={false}
          name="name"
          autoFocus
          problem={write.of("name")}
        />
        <Entry
          label={row ? t("A new PIN") : t("PIN to begin with")}
          value={pin}
          onChange={setPin}
          name="pin"
          placeholder={row ? t("as it is") : t("six digits or more")}
          problem={write.of("pin")}
        />
      </Figures>
      <div>
        <Choice
          label={t("May")}
          value={role}
          words={
            Object.fromEntries(mayGive.map((one) => [one, ROLE_NAMES[one]])) as Partial<Record<Schema["Role"], string>>
          }
          onChange={setRole}
        />
        <Soft>{ROLES[role]}</Soft>
        {write.of("role") && <Fault role="alert">{write.of("role")}</Fault>}
      </div>
      {beside && <Fault role="alert">{beside}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.pending || !name.trim()}>
          {row ? t("Keep it so") : t("Take on")}
        </Button>
        {row && (
          <Button isDisabled={write.pending} onPress={() => write.write(!worksHere)}>
            {worksHere ? t("No longer works here") : t("Works here again")}
          </Button>
        )}
        {row && worksHere && (
          <Button isDisabled={unlock.pending} onPress={() => unlock.write(row.id)}>
            {unlock.done ? t("The wait is lifted") : t("Lift a wait after wrong PINs")}
          </Button>
        )}
        <Button onPress={onLeave}>{t("Leave it")}</Button>
      </Acts>
      {row && owns && worksHere && <WorksIn row={row} />}
      {row && (
        <Soft>
          {t("What {0} kept stays under that name. Whoever leaves, or gets a new PIN, is signed out.", row.name)}
        </Soft>
      )}
    </Form>
  );
}
