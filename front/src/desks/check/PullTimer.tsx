/** Counts a pull, or a rest, on a ring. Silent unless the sound is turned on. */
import { useEffect, useRef, useState } from "react";
import { Button as AriaButton, ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { chipStyle, labelStyle } from "../../kit/parts";
import { t } from "../../language/t";
import { Beside } from "../../kit/layout";

const Ring = styled(AriaButton)`
  width: 76px;
  height: 76px;
  padding: 0;
  border: none;
  background: none;
  cursor: pointer;
  border-radius: 32px;
  svg {
    display: block;
  }
  text {
    font-size: 16px;
    font-weight: 750;
    fill: var(--ink);
  }
`;
const Sound = styled(ToggleButton)`
  ${chipStyle}
`;
const Legend = styled.span`
  ${labelStyle}
`;
const ROUND = 2 * Math.PI * 26;

function beep() {
  const audio = new AudioContext();
  const tone = audio.createOscillator();
  tone.frequency.value = 880;
  tone.connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.35);
}

export const secondsWords = (seconds: number) =>
  seconds >= 120 ? t("pull_timer.min", { seconds: Math.ceil(seconds / 60) }) : `${Math.ceil(seconds)} s`;

interface Props {
  seconds: number;
  label?: string;
  silent?: boolean;
}

export function PullTimer({ seconds, label = t("pull_timer.timer"), silent = false }: Props) {
  const [ends, setEnds] = useState<number | null>(null);
  const [left, setLeft] = useState(seconds);
  const [sound, setSound] = useState(false);
  const loud = useRef(sound);
  useEffect(() => {
    loud.current = sound;
  }, [sound]);
  useEffect(() => {
    if (ends === null) return;
    const tick = setInterval(() => {
      const rest = Math.max(0, (ends - Date.now()) / 1000);
      setLeft(rest);
      if (rest === 0) {
        clearInterval(tick);
        setEnds(null);
        if (loud.current) beep();
      }
    }, 100);
    return () => clearInterval(tick);
  }, [ends]);
  const running = ends !== null;
  const done = !running && left === 0;
  const words = done ? t("screens.now") : secondsWords(running ? left : seconds);
  return (
    <div>
      <Legend>{label}</Legend>
      <Beside $gap={6}>
        <Ring
          aria-label={
            running
              ? t("pull_timer.stop_the_timer_left", { left: secondsWords(left) })
              : done
                ? t("pull_timer.time_is_up_start_again")
                : t("pull_timer.start", { seconds: secondsWords(seconds) })
          }
          onPress={() => {
            setLeft(seconds);
            setEnds(running ? null : Date.now() + seconds * 1000);
          }}
        >
          <svg width="76" height="76" viewBox="0 0 64 64" aria-hidden>
            <circle
              cx="32"
              cy="32"
              r="26"
              fill={done ? "var(--copper)" : "var(--sheet)"}
              stroke="var(--line)"
              strokeWidth="6"
            />
            <circle
              cx="32"
              cy="32"
              r="26"
              fill="none"
              stroke="var(--copper)"
              strokeWidth="6"
              strokeDasharray={`${(ROUND * (seconds - left)) / seconds} ${ROUND}`}
              transform="rotate(-90 32 32)"
            />
            <text
              x="32"
              y="37"
              textAnchor="middle"
              style={{ fontSize: words.length > 5 ? 13.5 : 16, ...(done && { fill: "var(--on-ink)" }) }}
            >
              {words}
            </text>
          </svg>
        </Ring>
        {!silent && (
          <Sound isSelected={sound} onChange={setSound}>
            {sound ? t("pull_timer.sound_on") : t("pull_timer.sound_off")}
          </Sound>
        )}
      </Beside>
    </div>
  );
}
