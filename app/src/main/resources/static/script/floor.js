// The floor as it stands: it comes anew when something changes, and tickets are laid onto people and queues.
import { byId, drawAnew } from "./page.js";
import { ask, askAnew, formOf } from "./server.js";
import { toast, wordsOf } from "./messages.js";
import { keysFree } from "./menus.js";

const GATHERED = 500;
let waits = 0, dragged = null;

function busy() {
  const now = byId("floor-now");
  const form = document.activeElement && now.contains(document.activeElement) && document.activeElement.closest("form, details[open]");
  return dragged || form || !byId("menu").hidden;
}
function refresh() {
  waits = 0;
  if (busy()) { later(); return; }
  askAnew("/floor").then(a => a.text()).then(html => {
    if (busy()) { later(); return; }
    const fresh = new DOMParser().parseFromString(html, "text/html").getElementById("floor-now");
    const now = byId("floor-now");
    const opened = Array.from(now.querySelectorAll("[data-person] details[open]")).map(d => d.closest("[data-person]").dataset.person);
    drawAnew(() => { now.innerHTML = fresh.innerHTML; });
    opened.forEach(id => {
      const again = now.querySelector("[data-person='" + id + "'] details");
      if (again) { again.open = true; }
    });
  }).catch(() => {});
}
function later() { if (!waits) { waits = setTimeout(refresh, GATHERED); } }
["rafter:all", "rafter:floor", "rafter:ticket", "rafter:offer"].forEach(what => { document.addEventListener(what, later); });
document.addEventListener("done", later);

function move(url, fields, words) {
  ask(url, { method: "POST", body: formOf(fields), headers: { "HX-Request": "true" } }).then(answer => {
    if (answer.ok) { toast(words); later(); return; }
    answer.text().then(html => { toast(wordsOf(html).slice(0, 300), null, true); });
  });
}
document.addEventListener("dragstart", e => {
  dragged = e.target.closest && e.target.closest("tr[data-ticket]");
  if (dragged) { e.dataTransfer.setData("text/plain", dragged.dataset.ticket); }
});
function target(e) { return dragged && e.target.closest("[data-person], [data-queue]"); }
document.addEventListener("dragover", e => { if (target(e)) { e.preventDefault(); } });
document.addEventListener("drop", e => {
  const to = target(e);
  if (!to || to.contains(dragged)) { return; }
  e.preventDefault();
  const ticket = dragged.dataset.ticket;
  if (to.dataset.person) {
    move("/tickets/" + ticket + "/owner", { owner: to.dataset.person, was: "" }, ticket + " was handed to " + to.dataset.name + ".");
  } else { move("/tickets/" + ticket + "/queue", { queue: to.dataset.queue }, ticket + " waits in " + to.dataset.name + " now."); }
});
document.addEventListener("dragend", () => { dragged = null; });
document.addEventListener("keydown", e => {
  if (e.key === "g" && keysFree(e)) { e.preventDefault(); document.querySelector("[data-next]").click(); }
});
