/** Help for the desk in front: what it is for, its keys, its words. */
import { Dialog, Heading, Modal } from "react-aria-components";
import styled from "styled-components";
import { helpOf } from "./help";
import { Button, Key_, Over } from "./parts";
import { t } from "../language/t";
import { Pair } from "./layout";

const CloseLine = styled.div`
  margin-top: 22px;
`;

const Sheet = styled(Modal)`
  position: absolute;
  inset: 0 0 0 auto;
  width: min(520px, 100vw);
  overflow: auto;
  background: var(--ground);
  color: var(--ink);
  border-left: 2px solid var(--rule);
  padding: 22px 26px;
  h2 {
    font-size: 26px;
  }
  h3 {
    font-size: 17px;
    margin: 20px 0 6px;
  }
  p {
    font-size: 18px;
    line-height: 1.35;
    margin-top: 8px;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 8px 16px;
    align-items: center;
    font-size: 17px;
  }
  dt {
    display: flex;
    gap: 4px;
    font-weight: 650;
  }
`;

export function HelpPage({ desk, onClose }: { desk: string; onClose: () => void }) {
  const help = helpOf(desk);
  return (
    <Over isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Sheet>
        <Dialog>
          <Heading slot="title" level={2}>
            {help.title}
          </Heading>
          <p>{help.for}</p>
          <h3>{t("help_page.keys")}</h3>
          <dl>
            {help.keys.map(([keys, does]) => (
              <Pair key={does}>
                <dt>
                  {keys.split(" ").map((key) => (
                    <Key_ key={key}>{key}</Key_>
                  ))}
                </dt>
                <dd>{does}</dd>
              </Pair>
            ))}
          </dl>
          {help.words.length > 0 && <h3>{t("help_page.words")}</h3>}
          <dl>
            {help.words.map(([word, means]) => (
              <Pair key={word}>
                <dt>{word}</dt>
                <dd>{means}</dd>
              </Pair>
            ))}
          </dl>
          <CloseLine>
            <Button onPress={onClose}>
              {t("help_page.close")} <Key_>{t("screens.esc")}</Key_>
            </Button>
          </CloseLine>
        </Dialog>
      </Sheet>
    </Over>
  );
}
