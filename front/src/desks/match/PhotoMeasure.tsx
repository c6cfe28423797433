/** A tray measured in a photo: a bank card in it is the measure. Eight marks are moved by hand or arrow key; the picture stays here. */
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Dialog, FileTrigger, Heading, Modal } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, type Schema } from "../../api/client";
import { Button, Over, Soft } from "../../kit/parts";
import { lengthText } from "../../kit/units";
import { Acts, Fault } from "../goods/parts";
import { t } from "../../language/t";

const AtStart = styled(Button)`
  justify-self: start;
`;

const Sheet = styled(Modal)`
  position: fixed;
  inset: 2vh 2vw;
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  overflow: auto;
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
    padding: 14px 18px;
    outline: none;
  }
  h2 {
    font-size: 22px;
  }
`;
const Picture = styled.div`
  position: relative;
  justify-self: center;
  touch-action: none;
  user-select: none;
  img {
    display: block;
    max-width: 100%;
    max-height: 62vh;
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }
  polygon {
    fill: none;
    vector-effect: non-scaling-stroke;
    stroke-width: 2px;
  }
`;
const Mark = styled.button<{ $of: Part }>`
  position: absolute;
  width: 44px;
  height: 44px;
  margin: -22px 0 0 -22px;
  padding: 0;
  border: none;
  background: none;
  cursor: move;
  &::after {
    content: "";
    position: absolute;
    inset: 14px;
    border-radius: ${({ $of }) => ($of === "card" ? "3px" : "50%")};
    border: 2px solid ${({ $of }) => ($of === "card" ? "#b8541f" : "#fffdf7")};
    box-shadow: 0 0 0 2px rgb(20 20 22 / 0.75);
  }
`;
type Part = "card" | "tray";
type Point = [number, number];
type Marks = Record<Part, [Point, Point, Point, Point]>;
const PARTS: Part[] = ["tray", "card"];
const NAMES = { card: "card", tray: "tray" };

const box = (wide: number, high: number, from: number, to: number): Marks[Part] => [
  [wide * from, high * from],
  [wide * to, high * from],
  [wide * to, high * to],
  [wide * from, high * to],
];

interface Props {
  store: Schema["StoreView"];
  onFound: (found: Schema["TrayFound"]) => void;
  onClose: () => void;
}

export function PhotoMeasure({ store, onFound, onClose }: Props) {
  const [src, setSrc] = useState<string | null>(null);
  const [size, setSize] = useState<[number, number] | null>(null);
  const [marks, setMarks] = useState<Marks | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const measure = useMutation({
    mutationFn: (set: Marks) =>
      answerOf(api.POST("/api/match/photo", { body: { ...set, picture_px: Math.max(...(size ?? [1, 1])) } })),
  });

  function move(part: Part, at: number, [x, y]: Point) {
    if (!marks || !size) return;
    const inside: Point = [Math.min(size[0], Math.max(0, x)), Math.min(size[1], Math.max(0, y))];
    const next = marks[part].map((point, index) => (index === at ? inside : point)) as Marks[Part];
    setMarks({ ...marks, [part]: next });
    measure.reset();
  }

  /** From the screen to the picture's own pixels. */
  function seen(clientX: number, clientY: number): Point | null {
    const rect = frame.current?.getBoundingClientRect();
    if (!rect || !size) return null;
    return [((clientX - rect.left) / rect.width) * size[0], ((clientY - rect.top) / rect.height) * size[1]];
  }

  const problem = measure.error instanceof ApiProblem ? measure.error : null;
  return (
    <Over isOpen isDismissable onOpenChange={onClose}>
      <Sheet>
        <Dialog aria-label={t("photo_measure.measure_in_a_photo")}>
          <Heading slot="title">{t("photo_measure.measure_in_a_photo")}</Heading>
          <Soft>{t("photo_measure.lay_a_bank_card_flat_in_the_bottom_of_the")}</Soft>
          <FileTrigger
            acceptedFileTypes={["image/*"]}
            onSelect={(files) => {
              const file = files?.[0];
              if (!file) return;
              const reader = new FileReader(); // the page may show data, and no addresses of its own making
              reader.onload = () => setSrc(reader.result as string);
              reader.readAsDataURL(file);
              setMarks(null);
              measure.reset();
            }}
          >
            <AtStart>{src ? t("photo_measure.another_picture") : t("photo_measure.take_or_choose_a_picture")}</AtStart>
          </FileTrigger>
          {src && (
            <Picture ref={frame}>
              <img
                src={src}
                alt={t("photo_measure.the_tray_as_it_was_taken")}
                draggable={false}
                onLoad={({ currentTarget: { naturalWidth: wide, naturalHeight: high } }) => {
                  setSize([wide, high]);
                  setMarks({ tray: box(wide, high, 0.12, 0.88), card: box(wide, high, 0.42, 0.58) });
                }}
              />
              {marks && size && (
                <>
                  <svg viewBox={`0 0 ${String(size[0])} ${String(size[1])}`} preserveAspectRatio="none" aria-hidden>
                    {PARTS.map((part) => (
                      <polygon
                        key={part}
                        points={marks[part].map((point) => point.join(",")).join(" ")}
                        stroke={part === "card" ? "#b8541f" : "#fffdf7"}
                      />
                    ))}
                  </svg>
                  {PARTS.flatMap((part) =>
                    marks[part].map((point, at) => (
                      <Mark
                        key={`${part}-${String(at)}`}
                        type="button"
                        $of={part}
                        aria-label={t("photo_measure.corner_of_the_arrow_keys_move_it", {
                          at: String(at + 1),
                          part: NAMES[part],
                        })}
                        style={{
                          left: `${String((point[0] / size[0]) * 100)}%`,
                          top: `${String((point[1] / size[1]) * 100)}%`,
                        }}
                        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
                        onPointerMove={(event) => {
                          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
                          const to = seen(event.clientX, event.clientY);
                          if (to) move(part, at, to);
                        }}
                        onKeyDown={(event) => {
                          const step = Math.max(...size) / (event.shiftKey ? 50 : 500);
                          const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
                            event.key
                          ];
                          if (!by) return;
                          event.preventDefault();
                          move(part, at, [point[0] + (by[0] ?? 0) * step, point[1] + (by[1] ?? 0) * step]);
                        }}
                      />
                    )),
                  )}
                </>
              )}
            </Picture>
          )}
          {marks && <Soft>{t("photo_measure.square_marks_on_the_cards_corners_round")}</Soft>}
          {measure.error && <Fault role="alert">{problem?.errors[0]?.message ?? measure.error.message}</Fault>}
          {measure.data && (
            <p role="status">
              {t("photo_measure.about")} <b>{lengthText(Math.round(measure.data.length_mm), store)}</b>{" "}
              {t("photo_measure.by")} <b>{lengthText(Math.round(measure.data.width_mm), store)}</b>
              {t("photo_measure.off_by_up_to_the_height_is_the_tapes", {
                off_mm: lengthText(Math.ceil(measure.data.off_mm), store),
              })}
            </p>
          )}
          <Acts>
            {measure.data ? (
              <Button $tone="strong" onPress={() => measure.data && onFound(measure.data)}>
                {t("photo_measure.take_these")}
              </Button>
            ) : (
              <Button
                $tone="strong"
                isDisabled={!marks || measure.isPending}
                onPress={() => marks && measure.mutate(marks)}
              >
                {t("photo_measure.measure")}
              </Button>
            )}
            <Button onPress={onClose}>{t("screens.leave_it")}</Button>
          </Acts>
        </Dialog>
      </Sheet>
    </Over>
  );
}
