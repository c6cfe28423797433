/** One person: name, role, PIN; let go, taken back, a wait lifted. */
import { useState } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { EntryForm, FaultOf, Typed } from "../../kit/EntryForm";
import { Button, Choice, Soft } from "../../kit/parts";
import { Figures } from "../goods/parts";
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
    return answerOf(
      row
        ? api.PUT("/api/house/people/{staff_id}", { params: { ...named, path: { staff_id: row.id } }, body })
        : api.POST("/api/house/people", { params: named, body }),
    );
  }, onDone);
  const unlock = useWrite(
    (staffId: number, named) =>
      answerOf(
        api.POST("/api/house/people/{staff_id}/unlock", {
          params: { ...named, path: { staff_id: staffId } },
          body: {},
        }),
      ),
    onDone,
  );
  const worksHere = row === null || row.left_at === null;
  const mayGive: Schema["Role"][] = isOwner ? ["counter", "lead", "owner"] : row ? [row.role] : ["counter"];
  return (
    <>
      <EntryForm
        label={row ? t("Change {0}", row.name) : t("Write somebody in")}
        write={write}
        also={unlock}
        ready={name.trim() !== ""}
        onSend={() => write.write(worksHere)}
        keep={row ? t("Keep it so") : t("Take on")}
        onLeave={onLeave}
        acts={
          <>
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
          </>
        }
      >
        <h2>{row ? row.name : t("Somebody new")}</h2>
        <Figures>
          <Typed path="name" label={t("Name")} value={name} onChange={setName} numeric={false} autoFocus />
          <Typed
            path="pin"
            label={row ? t("A new PIN") : t("PIN to begin with")}
            value={pin}
            onChange={setPin}
            placeholder={row ? t("as it is") : t("six digits or more")}
          />
        </Figures>
        <div>
          <Choice
            label={t("May")}
            value={role}
            words={
              Object.fromEntries(mayGive.map((one) => [one, ROLE_NAMES[one]])) as Partial<
                Record<Schema["Role"], string>
              >
            }
            onChange={setRole}
          />
          <Soft>{ROLES[role]}</Soft>
          <FaultOf path="role" />
        </div>
      </EntryForm>
      {row && owns && worksHere && <WorksIn row={row} />}
      {row && (
        <Soft>
          {t("What {0} kept stays under that name. Whoever leaves, or gets a new PIN, is signed out.", row.name)}
        </Soft>
      )}
    </>
  );
}
