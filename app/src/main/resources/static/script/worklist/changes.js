// Changes that come in without moving what the reader is looking at.
import { announce } from "../messages.js";
import { byId } from "../page.js";
import { showChosen } from "./choosing.js";
import { brushing, showBrush } from "./horizon.js";
import { renewLanes } from "./lanes.js";
import { cards, getAtRest, held, inLanes, list, numbersHere, query } from "./list.js";

const asked = new Set();

let timer = null;
export function soon(number) {
  if (!list()) { return; }
  asked.add(number);
  if (!timer) { timer = setTimeout(refresh, 250); }
}
function refresh() {
  timer = null;
  const numbers = Array.from(asked).slice(0, 200);
  asked.clear();
  head();
  if (inLanes()) { renewLanes(); return; }
  const shown = numbers.filter(n => byId("t" + n));
  fetchCards("numbers=" + numbers.join(",") + "&shown=" + shown.join(","));
}
// Everything that changed since the list was made, for when changes may have been missed.
function catchUp() {
  if (!list()) { return; }
  if (inLanes()) { renewLanes(); head(); return; }
  const shown = numbersHere().slice(0, 200);
  fetchCards("since=" + list().dataset.asof + "&shown=" + shown.join(",") + "&numbers=" + shown.join(","));
  head();
}
function fetchCards(what) {
  getAtRest("/worklist/cards?" + query() + "&" + what).then(html => {
    const page = new DOMParser().parseFromString(html, "text/html");
    if (what.startsWith("since")) { list().dataset.asof = page.getElementById("some-in").dataset.asof; }
    page.querySelectorAll("#some-in .card-row").forEach(place);
    page.querySelectorAll("#some-gone li").forEach(li => { leave(li.dataset.number, li.textContent); });
    showChosen();
  });
}
function head() {
  getAtRest("/worklist/head?" + query()).then(html => {
    const place = byId("head");
    if (place.contains(document.activeElement) || place.querySelector("details[open]") || brushing !== null) { return; }
    place.innerHTML = html;
    showBrush();
  });
}
// A card that is there is renewed where it stands. A new one goes to its place when that is out of sight, with the scroll
// moved along; when its place is in sight it waits behind a button, so that nothing moves under the reader's eyes.
function place(card) {
  const old = byId(card.id);
  if (old) { renew(old, card); return; }
  const next = cards().find(c => before(card.dataset.place, c.dataset.place));
  if (!next && document.querySelector("#cards .more-row")) { return; }
  const box = next ? next.getBoundingClientRect() : null;
  if (next && box.top < 46) { insert(card, next); scrollBy(0, byId(card.id).offsetHeight); return; }
  if (next ? box.top > innerHeight : (cards().length && cards().at(-1).getBoundingClientRect().bottom > innerHeight)) {
    insert(card, next);
    return;
  }
  if (!cards().length) { const none = byId("none"); if (none) { none.remove(); } insert(card, null); return; }
  held.set(card.dataset.number, card);
  tell();
}
function renew(old, card) {
  const focused = old.contains(document.activeElement);
  if (old.classList.contains("at")) { card.classList.add("at"); }
  const what = focused && document.activeElement.dataset.menu;
  old.replaceWith(card);
  htmx.process(card);
  if (focused) {
    ((what && card.querySelector("[data-menu=" + what + "]")) || card.querySelector(".title")).focus({ preventScroll: true });
  }
}
function insert(card, next) {
  card.classList.add("fresh");
  const above = next && next.previousElementSibling;
  const before = above && /group-/.test(above.className) && next.dataset.group !== card.dataset.group
    ? above : next;
  byId("cards").insertBefore(card, before || document.querySelector("#cards > .more-row") || null);
  htmx.process(card);
}
function leave(number, words) {
  held.delete(number);
  tell();
  const card = byId("t" + number);
  if (!card || card.classList.contains("gone")) { return; }
  card.classList.add("gone");
  const line = card.querySelector(".clock, .c-due, .c-state");
  if (line) { line.textContent = "left this view: " + words; }
}
// The values of a row in each order of the list, as texts that compare as the values do. What is lacking comes last either way.
function before(a, b) {
  const x = a.split("\u001f"), y = b.split("\u001f"), down = byId("cards").dataset.down.split(",");
  for (let i = 0; i < x.length; i++) {
    if (x[i] === y[i]) { continue; }
    if (x[i] === "\uffff" || y[i] === "\uffff") { return y[i] === "\uffff"; }
    return (x[i] < y[i]) !== ((down[i] || down[0]) === "1");
  }
  return false;
}
function tell() {
  const bar = byId("arrived");
  bar.hidden = held.size === 0;
  const one = held.size === 1 ? held.values().next().value.querySelector(".title, .num").textContent : "";
  if (held.size) { announce(held.size === 1 ? "A ticket arrived" : held.size + " tickets arrived"); }
  const named = "Arrived: " + (one.length > 60 ? one.slice(0, 58) + "…" : one);
  bar.querySelector("button").textContent = held.size === 1 ? named : held.size + " tickets arrived, show them";
}
document.addEventListener("click", e => {
  if (!e.target.closest("#arrived button")) { return; }
  const all = Array.from(held.values());
  held.clear();
  tell();
  all.forEach(card => { insert(card, cards().find(c => before(card.dataset.place, c.dataset.place))); });
  if (all[0]) { byId(all[0].id).querySelector(".title, a").focus(); }
});
document.addEventListener("rafter:ticket", e => { soon(e.detail); });
document.addEventListener("rafter:all", catchUp);
document.addEventListener("htmx:afterSwap", () => { if (list()) { showChosen(); } });
// Clocks go on while nothing happens: cards in sight are renewed every minute.
setInterval(() => {
  if (!list() || document.hidden) { return; }
  if (inLanes()) { renewLanes(); head(); return; }
  cards().filter(c => {
    const b = c.getBoundingClientRect();
    return b.bottom > 0 && b.top < innerHeight && !c.classList.contains("gone");
  })
    .forEach(c => { soon(Number(c.dataset.number)); });
  head();
}, 60000);
