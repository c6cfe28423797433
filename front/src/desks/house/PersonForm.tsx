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
        label={row ? t("screens.change", { name: row.name }) : t("screens.write_somebody_in")}
        write={write}
        also={unlock}
        ready={name.trim() !== ""}
        onSend={() => write.write(worksHere)}
        keep={row ? t("screens.keep_it_so") : t("person_form.take_on")}
        onLeave={onLeave}
        acts={
          <>
            {row && (
              <Button isDisabled={write.pending} onPress={() => write.write(!worksHere)}>
                {worksHere ? t("person_form.no_longer_works_here") : t("person_form.works_here_again")}
              </Button>
            )}
            {row && worksHere && (
              <Button isDisabled={unlock.pending} onPress={() => unlock.write(row.id)}>
                {unlock.done ? t("person_form.the_wait_is_lifted") : t("person_form.lift_a_wait_after_wrong_pins")}
              </Button>
            )}
          </>
        }
      >
        <h2>{row ? row.name : t("person_form.somebody_new")}</h2>
        <Figures>
          <Typed path="name" label={t("screens.name")} value={name} onChange={setName} numeric={false} autoFocus />
          <Typed
            path="pin"
            label={row ? t("person_form.a_new_pin") : t("person_form.pin_to_begin_with")}
            value={pin}
            onChange={setPin}
            placeholder={row ? t("person_form.as_it_is") : t("person_form.six_digits_or_more")}
          />
        </Figures>
        <div>
          <Choice
            label={t("screens.may")}
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
      {row && <Soft>{t("person_form.what_kept_stays_under_that_name_whoever", { name: row.name })}</Soft>}
    </>
  );
}
