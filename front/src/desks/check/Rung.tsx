/** One rung of the check: a key and a name when it is not due, open when it is, a line with its figure when it is done. */
import { memo, useEffect, useLayoutEffect, useRef, type ReactNode } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Key_ } from "../../kit/parts";
import { afterPress } from "../../kit/press";
import { LEAVE } from "../../kit/scan";
import { PHONE } from "../../kit/theme";
import { timeOf } from "../../kit/words";
import type { Schema } from "../../api/client";
import type { Standing } from "./drafts";
import { t } from "../../language/t";

const NotSent = styled.b`
  color: var(--copper);
`;

const Box = styled.section`
  outline: none;
  border-radius: 10px;
  border: 2px solid var(--copper);
  background: var(--sheet);
  padding: 2px 14px 12px;
  display: grid;
  gap: 8px;
`;
const Head = styled(AriaButton)`
  display: grid;
  grid-template-columns: 28px auto 1fr;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  text-align: left;
  b {
    font-size: 18px;
    font-weight: 780;
  }
  span {
    font-size: 16px;
    color: var(--soft);
    line-height: 1.2;
  }
`;
const Done = styled(AriaButton)`
  display: grid;
  grid-template-columns: 28px minmax(82px, max-content) minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 2px 12px;
  border-radius: 10px;
  border: 1.5px solid var(--line);
  background: var(--sheet);
  cursor: pointer;
  text-align: left;
  font-size: 16px;
  line-height: 1.2;
  & > b {
    font-size: 17px;
    font-weight: 750;
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
  ${PHONE} {
    grid-template-columns: 28px minmax(58px, max-content) minmax(0, 1fr) auto;
    gap: 8px;
    padding: 2px 8px;
    & > small {
      display: none;
    }
  }
`;
const Quiet = styled(AriaButton)`
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding: 2px 4px;
  border: 1.5px solid transparent;
  border-radius: 10px;
  background: none;
  cursor: pointer;
  font-size: 16px;
  font-weight: 600;
  color: var(--soft);
  text-align: left;
  kbd {
    opacity: 1;
  }
  &[data-hovered] {
    border-color: var(--line);
    color: var(--ink);
  }
  &[data-half="true"] {
    color: var(--copper);
  }
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
`;

/** How a finding stands, as a shape and a word. */
function Verdict({ finding }: { finding: Schema["Finding"] | undefined }) {
  if (!finding) return null;
  const word = { counts: t("rung.counts"), doubtful: t("rung.doubtful"), dropped: t("screens.does_not_count") }[
    finding.status
  ];
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" role="img" aria-label={word}>
      {finding.status === "counts" && <path d="M3 10 l5 5 l9 -11" fill="none" stroke="var(--sound)" strokeWidth="3" />}
      {finding.status === "doubtful" && (
        <path d="M4 16 L16 4" stroke="var(--doubt)" strokeWidth="3" strokeDasharray="4 3" />
      )}
      {finding.status === "dropped" && (
        <path d="M10 3 V15 M4 10 l6 6 l6 -6" fill="none" stroke="var(--soft)" strokeWidth="2.5" />
      )}
    </svg>
  );
}

interface NameProps {
  letter: string;
  title: string;
}

/** A rung that is neither due nor done. */
export const QuietRung = memo(function QuietRung({
  letter,
  title,
  half,
  closed,
  onOpen,
}: NameProps & { half: boolean; closed: boolean; onOpen: () => void }) {
  return (
    <div data-rung={title}>
      <Quiet onPress={onOpen} data-half={half} isDisabled={closed} aria-expanded={false}>
        <Key_>{letter}</Key_>
        {title}
        {half && <span className="half">{t("rung.half_typed")}</span>}
      </Quiet>
    </div>
  );
});

interface DoneProps extends NameProps {
  standing: Standing;
  summary: ReactNode;
  finding: Schema["Finding"] | undefined;
  onOpen: () => void;
}

/** A rung that was read: one line, touched to correct it. */
export const DoneRung = memo(
  function DoneRung({ letter, title, standing, summary, finding, onOpen }: DoneProps) {
    return (
      <div data-rung={title}>
        <Done onPress={onOpen}>
          <Key_>{letter}</Key_>
          <b>
            <span className="quiet">{t("screens.correct")} </span>
            {title}
          </b>
          <span>{summary}</span>
          <Verdict finding={finding} />
          <small>
            {standing.keptAt ? (
              <>{t("rung.kept", { kept_at: timeOf(standing.keptAt) })}</>
            ) : (
              <NotSent>{t("rung.not_sent_yet")}</NotSent>
            )}
          </small>
        </Done>
      </div>
    );
  },
  (before, after) => before.standing === after.standing && before.finding?.status === after.finding?.status,
);

interface OpenProps extends NameProps {
  /** What is to be done here, and why; or what the rung is about. */
  says: ReactNode;
  onClose: () => void;
  onLeave: () => void;
  children: ReactNode;
}

/** The rung that is open. */
export function OpenRung({ letter, title, says, onClose, onLeave, children }: OpenProps) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    const element = box.current;
    const leave = () => onLeave();
    element?.addEventListener(LEAVE, leave);
    return () => element?.removeEventListener(LEAVE, leave);
  }, [onLeave]);
  // Before it is painted, and never later: what moves under a finger is not what was touched.
  useLayoutEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" });
  }, []);
  return (
    <Box
      ref={box}
      aria-label={title}
      data-rung={title}
      data-open
      tabIndex={-1}
      onBlur={(event) => {
        const { currentTarget, relatedTarget: next } = event;
        if (currentTarget.contains(next)) return;
        if (next instanceof Element && next.closest('[role="dialog"]')) return; // the tag line stands over it
        // A rung that closes moves those below it: one that is being pressed stays where it is until the press is heard.
        if (next instanceof Element && next.closest("[data-rung]")) afterPress(onLeave);
        else onLeave();
      }}
    >
      <Head onPress={onClose} aria-expanded>
        <Key_>{letter}</Key_>
        <b>{title}</b>
        <span>{says}</span>
      </Head>
      {children}
    </Box>
  );
}
