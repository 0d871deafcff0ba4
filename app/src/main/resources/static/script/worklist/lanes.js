// Laying tickets into other lanes.
import { toast } from "../messages.js";
import { byId } from "../page.js";
import { soon } from "./changes.js";
import { showChosen } from "./choosing.js";
import { cards, current, get, getAtRest, list, post, query } from "./list.js";
import { focusOf, lanesOf, mark } from "./walking.js";

let dragged = null;
/** Lays a ticket into a lane: what it becomes there is told by a path, a field and the field's value. */
function lay(card, lane) {
  if (!lane.dataset.drop || lane.contains(card)) { return; }
  const [path, field, ...value] = lane.dataset.drop.split("|");
  post("/tickets/" + card.dataset.number + "/" + path, { [field]: value.join("|") }).then(() => { soon(Number(card.dataset.number)); });
}
/** Brings lanes that are not drawn yet, for whoever does not scroll to them; whether there are any. */
export function bringMore(then) {
  const more = () => document.querySelector("#lanes .more-lanes"), where = more() && more().getAttribute("hx-get");
  if (!where) { return false; }
  get(where).then(html => {
    // They may have come by scrolling meanwhile.
    if (more() && more().getAttribute("hx-get") === where) {
      more().outerHTML = html;
      htmx.process(byId("lanes"));
    }
    then();
  });
  return true;
}
export function moveAcross(step) {
  const card = current(), every = lanesOf();
  if (!card) { return; }
  for (let i = every.indexOf(card.closest(".lane, .clock-lane")) + step; i >= 0 && i < every.length; i += step) {
    if (every[i].dataset.drop) { lay(card, every[i]); return; }
  }
  if (step > 0 && bringMore(() => { moveAcross(step); })) { return; }
  toast("There is no lane there that it could be laid into.");
}
document.addEventListener("dragstart", e => {
  dragged = e.target.closest && e.target.closest("#lanes .card-row, #lanes .clock-mark");
  if (dragged) { e.dataTransfer.setData("text/plain", dragged.dataset.number); e.dataTransfer.effectAllowed = "move"; }
});
document.addEventListener("dragover", e => {
  const lane = dragged && e.target.closest && e.target.closest(".lane, .clock-lane");
  lanesOf().forEach(l => { l.classList.toggle("over", l === lane && !!l.dataset.drop); });
  if (lane && lane.dataset.drop) { e.preventDefault(); }
});
document.addEventListener("drop", e => {
  const lane = dragged && e.target.closest && e.target.closest(".lane, .clock-lane");
  if (lane) { e.preventDefault(); lay(dragged, lane); }
});
document.addEventListener("dragend", () => { dragged = null; lanesOf().forEach(l => { l.classList.remove("over"); }); });
// Links inside SVG cannot be dragged by the browser alone, so the marks of the Clock follow the pointer.
let pulled = null;
document.addEventListener("pointerdown", e => {
  const m = e.target.closest && e.target.closest(".clock-mark");
  if (m && e.button === 0) { pulled = { mark: m, x: e.clientX, y: e.clientY, moved: false }; }
});
document.addEventListener("pointermove", e => {
  if (!pulled) { return; }
  if (!pulled.moved && Math.hypot(e.clientX - pulled.x, e.clientY - pulled.y) > 6) {
    pulled.moved = true;
    pulled.mark.classList.add("pulled");
  }
  if (pulled.moved) {
    let lane = document.elementFromPoint(e.clientX, e.clientY);
    lane = lane && lane.closest(".clock-lane");
    lanesOf().forEach(l => { l.classList.toggle("over", l === lane); });
  }
});
document.addEventListener("pointerup", e => {
  if (!pulled) { return; }
  const was = pulled;
  pulled = null;
  was.mark.classList.remove("pulled");
  lanesOf().forEach(l => { l.classList.remove("over"); });
  if (!was.moved) { return; }
  addEventListener("click", c => { c.preventDefault(); c.stopPropagation(); }, { capture: true, once: true });
  let lane = document.elementFromPoint(e.clientX, e.clientY);
  lane = lane && lane.closest(".clock-lane");
  if (lane) { lay(was.mark, lane); }
});
document.addEventListener("click", e => {
  const button = e.target.closest("#lanes .limit");
  if (!button) { return; }
  const input = document.createElement("input");
  input.type = "number";
  input.min = "0";
  input.max = "9999";
  input.className = "limit-input";
  input.setAttribute("aria-label", button.getAttribute("aria-label") + ", empty for none");
  input.value = (button.textContent.match(/\d+/) || [""])[0];
  button.replaceWith(input);
  input.focus();
  input.addEventListener("keydown", k => {
    if (k.key === "Escape") { input.replaceWith(button); button.focus(); }
    if (k.key !== "Enter") { return; }
    const p = new URLSearchParams(query()), lane = input.closest("[data-lane]").dataset.lane;
    // The lane's key as a form writes it down: without a comma, which parts the limits.
    const key = input.closest("[data-lanes-by]").dataset.lanesBy + "/" + new URLSearchParams({ "": lane }).toString().slice(1);
    const left = (p.get("limits") || list().dataset.limits || "").split(",").filter(one => {
      return one && [key, lane].indexOf(one.slice(0, one.lastIndexOf(":"))) < 0;
    });
    if (input.value) { left.push(key + ":" + input.value); }
    p.set("limits", left.join(","));
    location.href = "/worklist?" + p;
  });
});
export function renewLanes() {
  if (dragged || pulled) { setTimeout(renewLanes, 400); return; }
  const there = lanesOf().length;
  getAtRest("/worklist/lanes?" + query() + "&lanes=" + there).then(html => {
    // As it is now: somebody may have begun to walk or to drag since it was asked for, or brought more lanes.
    if (dragged || pulled || lanesOf().length > there) { setTimeout(renewLanes, 400); return; }
    const place = byId("lanes"), focused = place.contains(document.activeElement) && current() ? current().dataset.number : null;
    const side = place.firstElementChild ? place.firstElementChild.scrollLeft : 0;
    place.innerHTML = html;
    htmx.process(place);
    if (place.firstElementChild) { place.firstElementChild.scrollLeft = side; }
    // The reader may have scrolled elsewhere, and stays there.
    const again = focused && cards().find(c => c.dataset.number === focused);
    if (again) { mark(again); focusOf(again).focus({ preventScroll: true }); }
    showChosen();
  });
}
