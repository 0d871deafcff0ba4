// A press that begins on something which is drawn anew before it ends is lost: whoever draws anew waits for its end.
let pressed = false;
const waiting = [];
// The click follows the release.
function end() {
  setTimeout(() => {
    pressed = false;
    waiting.splice(0).forEach(go => go());
  });
}
document.addEventListener("pointerdown", () => { pressed = true; }, true);
document.addEventListener("pointerup", end, true);
document.addEventListener("pointercancel", end, true);
window.addEventListener("blur", end);
/** Once no button and no finger is down. */
export function released() { return pressed ? new Promise(go => { waiting.push(go); }) : Promise.resolve(); }
