// From one ticket of a list to the next without going back to it.
import { byId } from "../page.js";

function kept() {
  try { return JSON.parse(sessionStorage.getItem("walk") || "null"); } catch (e) { return null; }
}

/** Shows the ways from this ticket, as far as the list that it was opened from has any. */
export function showWalk(number) {
  // So that the list, come back to, stands where it was left.
  if (/^\/tickets\/\d+$/.test(location.pathname)) { sessionStorage.setItem("from-ticket", "1"); }
  const nav = byId("walk");
  const way = name => nav.querySelector("[data-walk=" + name + "]");
  const walk = kept();
  const at = walk ? walk.numbers.indexOf(String(number)) : -1;
  if (walk) { way("list").href = "/worklist?" + walk.list; }
  [["previous", at - 1], ["next", at + 1]].forEach(([name, index]) => {
    const to = at >= 0 && walk.numbers[index];
    way(name).hidden = !to;
    if (to) { way(name).href = "/tickets/" + to; }
  });
  way("place").textContent = at >= 0 ? at + 1 + " of " + walk.numbers.length + " in it" : "";
}

const WAYS = { ArrowRight: "next", ArrowLeft: "previous", l: "list", L: "list" };

/** Follows the way that a key stands for, if there is one. */
export function walkOn(e) {
  const link = WAYS[e.key] && !e.shiftKey && document.querySelector("#walk [data-walk=" + WAYS[e.key] + "]");
  if (!link || link.hidden || e.target.closest("[role=tablist], svg")) { return; }
  e.preventDefault();
  location.href = link.href;
}
