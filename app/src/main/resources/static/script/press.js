// A press that begins on something which is drawn anew before it ends is lost: whoever draws anew waits for its end.
let pressed = null;
const waiting = [];
// The click follows the release.
function end() {
  setTimeout(() => {
    pressed = null;
    waiting.splice(0).forEach(go => go());
  });
}
document.addEventListener("pointerdown", e => { pressed = e.target; }, true);
document.addEventListener("pointerup", end, true);
document.addEventListener("pointercancel", end, true);
window.addEventListener("blur", end);
/** Once no button and no finger is down. */
export function released() { return pressed ? new Promise(go => { waiting.push(go); }) : Promise.resolve(); }
// So does what is asked for again and again, or with the news, while it is pressed itself.
document.addEventListener("htmx:beforeSwap", e => {
  const { target, elt, serverResponse, shouldSwap } = e.detail;
  if (!shouldSwap || !pressed || !target.contains(pressed)) { return; }
  e.detail.shouldSwap = false;
  const swapStyle = (elt.closest("[hx-swap]")?.getAttribute("hx-swap") || "innerHTML").split(" ")[0];
  released().then(() => { if (target.isConnected) { htmx.swap(target, serverResponse, { swapStyle }); } });
});
