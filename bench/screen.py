"""What the screen takes, in the browser: `python -m bench.screen http://127.0.0.1:8140` on the demo shop.

From the last key to the headline's change, the frames while the vane turns, how soon the first screen can be used on a warm
server, and how much JavaScript it needs for that, packed.
"""

import itertools
import sys
import time

from playwright.sync_api import Page, Response, sync_playwright

from vane_check.demo import goods

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
ROUNDS = 40
MEASURE = """([text]) => new Promise((done) => {
  const input = document.querySelector("input[name=measured_cca_amps]");
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
FRAMES = """() => new Promise((done) => {
  const times = [];
  const tick = (now) => { times.push(now); times.length < 45 ? requestAnimationFrame(tick) : done(times); };
  requestAnimationFrame(tick);
})"""


def first_screen(page: Page, base: str) -> None:
    """From opening the address to a PIN that can be typed, with nothing remembered."""
    packed: dict[str, int] = {}

    def count(response: Response) -> None:
        if response.url.endswith(".js"):
            packed[response.url] = int(response.headers.get("content-length") or 0)

    page.on("response", count)
    began = time.perf_counter()
    page.goto(base)
    page.get_by_label("PIN", exact=True).wait_for()
    took = time.perf_counter() - began
    page.remove_listener("response", count)
    print(f"first screen usable after {took * 1000:.0f} ms; JavaScript {sum(packed.values()) / 1000:.0f} kB packed")


def main() -> None:
    """Measure and print."""
    base = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8140"
    name, _, pin = goods.PEOPLE[0]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for _ in range(2):  # the first asking warms the server
            first_screen(page, base)
        page.goto(f"{base}/check/174")
        page.get_by_role("button", name=name).click()
        page.keyboard.type(pin)
        page.keyboard.press("Enter")
        page.get_by_test_id("headline").wait_for()
        page.wait_for_timeout(600)
        page.locator("aside").click()
        page.keyboard.press("t")
        page.locator("input[name=measured_cca_amps]").fill("700")
        page.wait_for_timeout(600)
        took = sorted(page.evaluate(MEASURE, [str((300 if turn % 2 == 0 else 700) + turn)]) for turn in range(ROUNDS))
        print(f"key to vane: median {took[ROUNDS // 2]:.0f} ms, p95 {took[int(ROUNDS * 0.95)]:.0f} ms")
        page.locator("input[name=measured_cca_amps]").fill("300")
        times = page.evaluate(FRAMES)
        gaps = sorted(later - earlier for earlier, later in itertools.pairwise(times))
        print(
            f"while it turns: {1000 * len(gaps) / (times[-1] - times[0]):.0f} frames a second, longest {gaps[-1]:.0f} ms"
        )
        browser.close()


if __name__ == "__main__":
    main()
