// A call: how it stands is drawn by the server, what is typed is kept while it is typed.
import { byId, drawAnew } from "./page.js";
import { ask, askAnew, formOf } from "./server.js";

const GATHERED = 150, QUIET = 400, AGAIN = 3000;
const sheet = document.querySelector(".call"), list = byId("calls");
let timer = null;

function length(seconds) {
  const all = Math.max(0, Math.floor(seconds)), h = Math.floor(all / 3600), m = Math.floor(all / 60) % 60, s = all % 60;
  return (h ? h + ":" + String(m).padStart(2, "0") : m) + ":" + String(s).padStart(2, "0");
}
function tick() {
  const live = byId("call-live");
  if (live && live.dataset.over === "false") {
    live.querySelector("[data-clock]").textContent = length((Date.now() - Date.parse(live.dataset.since)) / 1000);
  }
}

// ---------------------------------------------------------------- what happens
function part(page, id) {
  const fresh = page.getElementById(id), here = byId(id);
  if (fresh && here && fresh.outerHTML !== here.outerHTML) { drawAnew(() => { here.replaceWith(fresh); htmx.process(fresh); }); }
}
function fetched(path, draw) {
  timer = null;
  askAnew(path).then(a => a.ok ? a.text() : null).then(html => {
    if (html !== null) { draw(new DOMParser().parseFromString(html, "text/html")); }
  }).catch(() => {});
}
function open(element) { return element && (element.contains(document.activeElement) || element.querySelector("details[open]")); }
function refresh() {
  if (list) { fetched(location.pathname + location.search, page => { part(page, "calls"); }); return; }
  fetched("/calls/" + sheet.dataset.call, page => {
    const live = byId("call-live"), fresh = page.getElementById("call-live");
    const moved = live.dataset.customer !== fresh.dataset.customer || live.dataset.ticket !== fresh.dataset.ticket;
    if (!live.querySelector(".call-word[open]") || live.className !== fresh.className) { part(page, "call-live"); }
    // Who it is changes what stands around; what somebody is typing into stays.
    const typing = open(byId("call-who")) || open(about) || open(document.querySelector(".call-with"));
    if (moved && !typing) { saving.then(() => { location.reload(); }); }
    tick();
  });
}
function soon() { if ((sheet || list) && !timer) { timer = setTimeout(refresh, GATHERED); } }
document.addEventListener("rafter:call", e => { if (list || (sheet && e.detail === Number(sheet.dataset.call))) { soon(); } });
document.addEventListener("rafter:all", soon);
if (sheet || list) { setInterval(tick, 1000); setInterval(() => { if (list && !document.hidden) { soon(); } }, 15000); }

// ---------------------------------------------------------------- notes
const notes = byId("notes"), kept = byId("notes-kept");
let quiet = null, sending = false, unsent = false;
function keep() {
  quiet = null;
  if (sending) { unsent = true; return; }
  sending = true;
  unsent = false;
  ask("/calls/" + sheet.dataset.call + "/notes",
    { method: "POST", body: formOf({ notes: notes.value, version: notes.dataset.version }), keepalive: true })
    .then(answer => answer.json().then(said => {
      if (answer.ok) {
        notes.dataset.version = said.version;
        kept.textContent = unsent || quiet ? "" : "Saved";
      } else {
        kept.textContent = said.words;
      }
    }))
    .catch(() => {
      kept.textContent = "Not saved yet: the connection is interrupted. It is tried again.";
      quiet = setTimeout(keep, AGAIN);
    })
    .finally(() => {
      sending = false;
      if (unsent) { keep(); }
    });
}
if (notes) {
  notes.addEventListener("input", () => {
    kept.textContent = "";
    clearTimeout(quiet);
    quiet = setTimeout(keep, QUIET);
  });
  document.addEventListener("submit", () => { if (quiet) { clearTimeout(quiet); keep(); } }, true);
  addEventListener("pagehide", () => { if (quiet) { clearTimeout(quiet); keep(); } });
  addEventListener("beforeunload", e => { if (sending && unsent) { e.preventDefault(); } });
}

// ---------------------------------------------------------------- what it is about
// Each field is saved once it is left, so that holding or hanging up loses nothing.
const about = byId("call-about"), aboutKept = byId("about-kept");
let saving = Promise.resolve();
function saveAbout() {
  const body = new URLSearchParams(new FormData(about));
  saving = saving.then(() => ask(about.action, { method: "POST", body, keepalive: true }))
    .then(a => a.json())
    .then(said => { aboutKept.textContent = said.words; })
    .catch(() => { aboutKept.textContent = "Not saved yet: the connection is interrupted. Press Save again."; });
}
if (about) { about.addEventListener("change", saveAbout); }
// A company that is chosen limits the names.
document.addEventListener("change", e => {
  if (e.target.name === "company") { document.body.dispatchEvent(new CustomEvent("firm")); }
});
