// The watch in the frame: it ticks here, and is asked for again when something was done with it.
import { toast } from "./messages.js";
import { atRest } from "./press.js";
import { ask, formOf } from "./server.js";

const place = () => document.getElementById("stopwatch-place");
function words(seconds) {
  const minutes = Math.floor(seconds / 60), two = n => String(n).padStart(2, "0");
  return minutes < 60 ? minutes + ":" + two(seconds % 60) : Math.floor(minutes / 60) + " h " + two(minutes % 60);
}
let base = 0, at = 0;
function tick() {
  const watch = place() && place().querySelector(".stopwatch");
  if (!watch) { return; }
  const seconds = base + (watch.dataset.runs === "true" ? Math.floor((Date.now() - at) / 1000) : 0);
  watch.querySelector("[data-clock]").textContent = words(seconds);
}
function show() {
  if (!place()) { return; }
  ask("/stopwatch", { headers: { "HX-Request": "true" } }).then(a => a.ok ? a.text() : "").then(atRest).then(html => {
    place().innerHTML = html;
    place().querySelectorAll(":scope > p").forEach(p => { p.remove(); });
    const watch = place().querySelector(".stopwatch");
    if (watch) {
      base = Number(watch.dataset.seconds);
      at = Date.now();
      tick();
      htmx.process(place());
    }
    startByItself();
  }).catch(() => { /* Nobody answers just now; it is drawn with the next news. */ });
}

// By itself, for those who want that. What one does in another window counts, too.
const ACTIVE = "rafter-active";
let startedFor = null;
function did() { localStorage.setItem(ACTIVE, String(Date.now())); }
["keydown", "pointerdown", "wheel"].forEach(what => addEventListener(what, did, { passive: true }));
function idleSeconds() { return Math.floor((Date.now() - Number(localStorage.getItem(ACTIVE) || Date.now())) / 1000); }
function choice() { return document.getElementById("watch-choice"); }
function send(path, fields) {
  return ask(path, { method: "POST", body: formOf(fields), headers: { "HX-Request": "true" } }).then(show);
}
function pauseWhenIdle() {
  const watch = place() && place().querySelector(".stopwatch[data-runs=true]");
  const minutes = choice() ? Number(choice().dataset.idle) : 0;
  if (!watch || !minutes || idleSeconds() < minutes * 60) { return; }
  send("/stopwatch/pause", { idle: idleSeconds() }).then(() => { toast("Your watch is paused, for nothing was done for a while."); });
}
function startByItself() {
  const ticket = document.getElementById("ticket");
  if (!ticket || !choice() || choice().dataset.starts !== "true" || startedFor === ticket.dataset.number) { return; }
  startedFor = ticket.dataset.number;
  const watch = place().querySelector(".stopwatch");
  if (!watch || watch.dataset.ticket !== startedFor) { send("/stopwatch", { ticket: startedFor }); }
}
setInterval(tick, 1000);
setInterval(pauseWhenIdle, 10000);
document.addEventListener("DOMContentLoaded", did);
// Only who has a watch, or one that starts by itself, has it drawn; what is drawn stays, for somebody may be writing in it.
document.addEventListener("rafter:waits", e => {
  if (!place()) { return; }
  const drawn = place().querySelector(".stopwatch") !== null || (choice() !== null && choice().dataset.starts === "true");
  if (drawn !== e.detail.watch > 0) { show(); }
});
document.addEventListener("htmx:afterRequest", e => {
  if (String(e.detail.requestConfig && e.detail.requestConfig.path).startsWith("/stopwatch")) { show(); }
});
