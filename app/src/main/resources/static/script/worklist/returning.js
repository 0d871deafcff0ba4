// Coming back to where one was.
import { byId } from "../page.js";
import { restoreChosen, showChosen } from "./choosing.js";
import { showBrush } from "./horizon.js";
import { cards, current, get, inLanes, list, numbersHere, query } from "./list.js";
import { focusOf, mark } from "./walking.js";

function placeKey() { return "place:" + query(); }
addEventListener("pagehide", () => {
  // A ticket that is opened from here knows which one comes next.
  if (list()) {
    sessionStorage.setItem("walk", JSON.stringify({ list: query(), numbers: numbersHere() }));
  }
  if (list() && !inLanes()) {
    const at = current() ? current().dataset.number : "";
    sessionStorage.setItem(placeKey(), JSON.stringify({ y: scrollY, rows: cards().length, at }));
  }
});
function comeBack() {
  let kept;
  try { kept = JSON.parse(sessionStorage.getItem(placeKey()) || "null"); } catch (e) { kept = null; }
  const entry = performance.getEntriesByType("navigation")[0];
  const back = entry && (entry.type === "back_forward" || entry.type === "reload") || sessionStorage.getItem("from-ticket") === "1";
  sessionStorage.removeItem("from-ticket");
  if (!kept || !back || inLanes()) { return; }
  const more = kept.rows > cards().length
    ? get("/worklist/more?" + query() + "&size=" + Math.min(300, kept.rows)).then(html => {
        byId("cards").innerHTML = html;
        htmx.process(byId("cards"));
        showChosen();
      })
    : Promise.resolve();
  more.then(() => {
    scrollTo(0, kept.y);
    const card = kept.at && byId("t" + kept.at);
    if (card) { mark(card); focusOf(card).focus({ preventScroll: true }); }
  });
}
document.addEventListener("DOMContentLoaded", () => {
  if (!list()) { return; }
  restoreChosen();
  showBrush();
  comeBack();
});
