/** One person: name, role, PIN; let go, taken back, a wait lifted. */
import { useState } from "react";
import { Form } from "react-aria-components";
import { api, asked, type Schema } from "../../api/client";
import { Button, Choice, Entry, Soft } from "../../kit/parts";
import { Acts, Fault, Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { ROLES } from "./words";

interface Props {
  row: Schema["PersonRow"] | null;
  isOwner: boolean;
  onDone: (house: Schema["HouseView"]) => void;
  onLeave: () => void;
}

export function PersonForm({ row, isOwner, onDone, onLeave }: Props) {
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
      aria-label={row ? `Change ${row.name}` : "Write somebody in"}
      style={{ display: "grid", gap: 12 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) write.write(worksHere);
      }}
    >
      <h2>{row ? row.name : "Somebody new"}</h2>
      <Figures>
        <Entry
          label="Name"
          value={name}
          onChange={setName}
          numeric={false}
          name="name"
          autoFocus
          problem={write.of("name")}
        />
        <Entry
          label={row ? "A new PIN" : "PIN to begin with"}
          value={pin}
          onChange={setPin}
          name="pin"
          placeholder={row ? "as it is" : "six digits or more"}
          problem={write.of("pin")}
        />
      </Figures>
      <div>
        <Choice
          label="May"
          value={role}
          words={Object.fromEntries(mayGive.map((one) => [one, one])) as Partial<Record<Schema["Role"], string>>}
          onChange={setRole}
        />
        <Soft>{ROLES[role]}</Soft>
        {write.of("role") && <Fault role="alert">{write.of("role")}</Fault>}
      </div>
      {beside && <Fault role="alert">{beside}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.pending || !name.trim()}>
          {row ? "Keep it so" : "Take on"}
        </Button>
        {row && (
          <Button isDisabled={write.pending} onPress={() => write.write(!worksHere)}>
            {worksHere ? "No longer works here" : "Works here again"}
          </Button>
        )}
        {row && worksHere && (
          <Button isDisabled={unlock.pending} onPress={() => unlock.write(row.id)}>
            {unlock.done ? "The wait is lifted" : "Lift a wait after wrong PINs"}
          </Button>
        )}
        <Button onPress={onLeave}>Leave it</Button>
      </Acts>
      {row && (
        <Soft>What {row.name} kept stays under that name. Whoever leaves, or gets a new PIN, is signed out.</Soft>
      )}
    </Form>
  );
}
