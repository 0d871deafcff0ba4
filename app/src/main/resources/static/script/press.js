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
/** Hands on what is to be drawn, once no button and no finger is down. */
export const atRest = what => pressed ? new Promise(go => { waiting.push(() => go(what)); }) : Promise.resolve(what);
// So does what is asked for again and again, or with the news, while it is pressed itself.
document.addEventListener("htmx:beforeSwap", e => {
  const { target, requestConfig, serverResponse, shouldSwap } = e.detail;
  if (!shouldSwap || !pressed || !target.contains(pressed)) { return; }
  e.detail.shouldSwap = false;
  const said = name => requestConfig.elt.closest("[" + name + "]")?.getAttribute(name);
  const swapStyle = (said("hx-swap") || "innerHTML").split(" ")[0];
  atRest(serverResponse).then(html => {
    if (target.isConnected) { htmx.swap(target, html, { swapStyle }, { select: said("hx-select") }); }
  });
});
