// Walking and acting on rows with keys.
import { keysFree, openMenu } from "../menus.js";
import { byId } from "../page.js";
import { all, batch, choose, chosen, except } from "./choosing.js";
import { closeGlance, glance } from "./glance.js";
import { strip } from "./horizon.js";
import { bringMore, moveAcross } from "./lanes.js";
import { cards, current, inLanes, list, post } from "./list.js";

export function focusOf(card) { return card.classList.contains("clock-mark") ? card : card.querySelector(".title"); }
export function mark(card) { cards().forEach(c => { c.classList.toggle("at", c === card); }); }
export function go(card) {
  if (!card) { return; }
  mark(card);
  focusOf(card).focus({ preventScroll: true });
  card.scrollIntoView({ block: "nearest", inline: "nearest" });
}
/** Whether a key goes to the row as such, and not to a link or button in it. */
function onRow(target) {
  return (target === document.body || target.closest(".card-row, .clock-mark")) && !target.closest("a,button,input,summary");
}
function walk(step) {
  const here = current();
  const all = inLanes() && here ? Array.from(here.closest(".lane, .clock-lane").querySelectorAll(".card-row, .clock-mark")) : cards();
  const i = all.indexOf(here);
  go(all[i < 0 ? 0 : Math.max(0, Math.min(all.length - 1, i + step))]);
}
export function lanesOf() { return Array.from(document.querySelectorAll("#lanes .lane, #lanes .clock-lane")); }
function across(step) {
  const here = current(), all = lanesOf();
  const i = here ? all.indexOf(here.closest(".lane, .clock-lane")) : -1;
  for (let next = i + step; next >= 0 && next < all.length; next += step) {
    const first = all[next].querySelector(".card-row, .clock-mark");
    if (first) { go(first); return; }
  }
  if (step > 0) { bringMore(() => { across(step); }); }
}
document.addEventListener("focusin", e => {
  const card = list() && e.target.closest(".card-row, .clock-mark");
  if (card) { mark(card); }
});
document.addEventListener("keydown", e => {
  if (list() && e.key === "Escape" && byId("menu").hidden && !document.querySelector(".veil:not([hidden])")) {
    closeGlance(true);
    return;
  }
  if (!keysFree(e)) { return; }
  if (walkHorizon(e)) { return; }
  if (list()) {
    if (e.key === "ArrowDown" || e.key === "ArrowUp") { e.preventDefault(); walk(e.key === "ArrowDown" ? 1 : -1); return; }
    if (inLanes() && (e.key === "ArrowLeft" || e.key === "ArrowRight")) {
      e.preventDefault();
      if (e.shiftKey) { moveAcross(e.key === "ArrowRight" ? 1 : -1); } else { across(e.key === "ArrowRight" ? 1 : -1); }
      return;
    }
    if (e.key === "Home" && cards()[0]) { e.preventDefault(); scrollTo(0, 0); go(cards()[0]); return; }
    if (e.key === "End") {
      const end = document.querySelector("[data-end]");
      e.preventDefault();
      if (end) { location.href = end.href; } else { go(cards().at(-1)); }
      return;
    }
    if (e.key === "Enter" && current() && onRow(e.target)) {
      location.href = focusOf(current()).href || focusOf(current()).getAttribute("href");
      return;
    }
    if (e.key === " " && current() && !e.target.closest("button,input,summary")) {
      e.preventDefault();
      glance(current().dataset.number, current());
      return;
    }
    if (e.key.toLowerCase() === "x" && current()) {
      e.preventDefault();
      choose(current(), all ? except.has(current().dataset.number) : !chosen.has(current().dataset.number), e.shiftKey);
      return;
    }
    if (e.key.toLowerCase() === "b" && (chosen.size || all)) { e.preventDefault(); batch(); return; }
  }
  const what = { o: "owner", s: "state", p: "priority", t: "about", d: "times" }[e.key.toLowerCase()];
  if (!what) { return; }
  const here = current();
  const place = here || byId("thead") || document.createElement("i");
  let link = place.querySelector("[data-menu=" + what + "], a.pick[href$='/" + what + "']");
  if (!link && here && list()) { link = menuLink(here, what); }
  if (link) { e.preventDefault(); openMenu(link); }
});
// The horizon is one stop for the Tab key; inside, the arrows go from mark to mark.
function walkHorizon(e) {
  const here = e.target.closest && e.target.closest("svg.strip a");
  if (!here || (e.key !== "ArrowRight" && e.key !== "ArrowLeft")) { return false; }
  e.preventDefault();
  const marks = Array.from(strip().querySelectorAll("a"));
  const next = marks[marks.indexOf(here) + (e.key === "ArrowRight" ? 1 : -1)];
  if (next) { here.setAttribute("tabindex", "-1"); next.setAttribute("tabindex", "0"); next.focus(); }
  return true;
}
// A mark or a row without that cell has no link of its own for the choice; one is made where it stands.
function menuLink(card, what) {
  const link = document.createElement("a");
  link.href = "/tickets/" + card.dataset.number + "/choose/" + what;
  link.getBoundingClientRect = () => card.getBoundingClientRect();
  link.focus = () => { focusOf(card).focus(); };
  return link;
}
document.addEventListener("click", e => {
  const take = e.target.closest("[data-take]");
  if (take) { post("/tickets/" + take.closest(".card-row").dataset.number + "/owner", { owner: list().dataset.me, was: "" }); }
});
