"""From a key to the vane in the browser: `python -m bench.screen http://127.0.0.1:8140` on the demo shop.

Types tester figures on a battery of the bench and times each from the last key to the headline's change.
"""

import sys

from playwright.sync_api import sync_playwright

from vane_check.demo import goods

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
ROUNDS = 40
MEASURE = """([text]) => new Promise((done) => {
  const input = document.querySelector("input[name=cca]");
  const says = document.querySelector("[data-testid=headline]");
  const before = says.textContent;
  const watch = new MutationObserver(() => {
    if (says.textContent !== before) { watch.disconnect(); requestAnimationFrame(() => done(performance.now() - began)); }
  });
  watch.observe(says, { characterData: true, subtree: true, childList: true });
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const began = performance.now();
  set.call(input, text);
  input.dispatchEvent(new Event("input", { bubbles: true }));
})"""


def main() -> None:
    base = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8140"
    name, _, pin = goods.PEOPLE[0]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{base}/check/174")
        page.get_by_role("button", name=name).click()
        page.keyboard.type(pin)
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Tester again").click()
        page.locator("input[name=cca]").fill("700")
        page.wait_for_timeout(600)
        took = sorted(page.evaluate(MEASURE, [str((300 if turn % 2 == 0 else 700) + turn)]) for turn in range(ROUNDS))
        print(f"key to vane: median {took[ROUNDS // 2]:.0f} ms, p95 {took[int(ROUNDS * 0.95)]:.0f} ms")
        browser.close()


if __name__ == "__main__":
    main()
