/** Whether a finger or button is down, so that nothing moves under it before its press has been heard. */
let down = false;
const watch = (is: boolean) => () => {
  down = is;
};
window.addEventListener("pointerdown", watch(true), true);
window.addEventListener("pointerup", watch(false), true);
window.addEventListener("pointercancel", watch(false), true);

const TAP_MS = 80;

/** Do it now, or, while a press is going on, as soon as the press is over and heard. */
export function afterPress(act: () => void) {
  if (!down) return act();
  let timer = 0;
  const finish = () => {
    clearTimeout(timer);
    window.removeEventListener("click", soon, true);
    act();
  };
  const soon = () => {
    clearTimeout(timer);
    timer = window.setTimeout(finish);
  };
  const up = () => {
    for (const sign of ["pointerup", "pointercancel"]) window.removeEventListener(sign, up, true);
    timer = window.setTimeout(finish, TAP_MS); // a tap's click may come a little after its pointer went up
  };
  for (const sign of ["pointerup", "pointercancel"]) window.addEventListener(sign, up, true);
  window.addEventListener("click", soon, true);
}
