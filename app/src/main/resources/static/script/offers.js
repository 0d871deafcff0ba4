// What somebody is asked to take, on every page; and telling that a page is open and touched.
import { byId } from "./page.js";
import { csrfToken } from "./server.js";
import { keysFree } from "./menus.js";
import { atRest } from "./press.js";

const SOUND = "rafter-offer-sound";
let told = "", ends = 0;

function quietly(url, options) {
  // A session that has ended is asked for where somebody does something, not here.
  return fetch(url, Object.assign({ headers: { "X-Requested-With": "fetch", "X-CSRF-TOKEN": csrfToken() } }, options))
    .then(a => a.ok ? a : Promise.reject(new Error("not now")));
}
function beep() {
  if (localStorage.getItem(SOUND) !== "on") { return; }
  const audio = new AudioContext();
  const tone = audio.createOscillator();
  const loud = audio.createGain();
  loud.gain.value = 0.08;
  tone.frequency.value = 587;
  tone.connect(loud).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.25);
}
function notify(card) {
  if (document.hidden && "Notification" in window && Notification.permission === "granted") {
    const shown = new Notification("Can you take this?", { body: card.dataset.subject, tag: "rafter-offer" });
    shown.onclick = () => { window.focus(); };
  }
}
function tick() {
  const left = document.querySelector("#offer [data-left]");
  if (!left) { return; }
  const seconds = Math.max(0, Math.round((ends - Date.now()) / 1000));
  left.textContent = seconds < 100 ? seconds + " s" : Math.round(seconds / 60) + " m";
  if (seconds > 0) { setTimeout(tick, 1000); } else { setTimeout(look, 1500); }
}
function arrived() {
  const card = document.querySelector("#offer [data-offer]");
  if (!card) { told = ""; return; }
  ends = Date.now() + Number(card.dataset.seconds) * 1000;
  if (told !== card.dataset.offer) {
    told = card.dataset.offer;
    byId("said").textContent = card.getAttribute("aria-label") + ": " + card.dataset.subject
      + (card.querySelector("[data-pass-offer]") ? ". Y takes it, N passes it." : ". Y says that you have read it.");
    beep();
    notify(card);
    tick();
  }
}
function look() {
  quietly("/offer").then(a => a.text()).then(atRest).then(html => {
    const place = byId("offer");
    // What is being typed into a reason stays; the clock of it goes on.
    if (place.contains(document.activeElement) && html.includes('data-offer="' + told + '"')) { return; }
    place.innerHTML = html;
    htmx.process(place);
    arrived();
  }).catch(() => {});
}
document.addEventListener("htmx:afterSwap", e => { if (e.target.id === "offer") { arrived(); } });
document.addEventListener("rafter:offer", look);
document.addEventListener("rafter:waits", e => { if (told || e.detail.offers + e.detail.rooms + e.detail.words > 0) { look(); } });

let touched = Date.now();
["keydown", "pointerdown", "wheel", "pointermove"].forEach(what => {
  document.addEventListener(what, () => { touched = Date.now(); }, { passive: true, capture: true });
});
function beat() {
  const idle = Math.round((Date.now() - touched) / 1000);
  quietly("/presence/beat", { method: "POST", body: new URLSearchParams({ idle }) }).then(a => a.json()).then(where => {
    const me = document.querySelector("summary.me");
    me.dataset.where = where.presence;
    me.title = me.title.split(",")[0] + ", " + where.words;
    document.dispatchEvent(new CustomEvent("rafter:waits", { detail: where.waits }));
  }).catch(() => {});
}
// What waits for somebody is known at once, and again each minute and whenever news may have been lost.
document.addEventListener("DOMContentLoaded", () => {
  if (!document.querySelector("summary.me")) { return; }
  beat();
  setInterval(beat, 60000);
});
document.addEventListener("rafter:all", beat);

document.addEventListener("keydown", e => {
  const card = document.querySelector("#offer [data-offer]");
  // With Alt they work while one types, too, as at the desk.
  const alt = e.altKey && !e.ctrlKey && !e.metaKey;
  if (!card || !(alt || keysFree(e))) { return; }
  const key = alt ? e.code.replace("Key", "").toLowerCase() : e.key;
  if (key === "y") { e.preventDefault(); card.querySelector("[data-take-offer]").click(); }
  const pass = card.querySelector("[data-pass-offer]");
  if (key === "n" && pass) { e.preventDefault(); pass.click(); }
});
document.addEventListener("change", e => {
  if (!e.target.hasAttribute("data-offer-sound")) { return; }
  localStorage.setItem(SOUND, e.target.checked ? "on" : "off");
  beep();
});
document.addEventListener("DOMContentLoaded", () => {
  document.querySelectorAll("[data-offer-sound]").forEach(i => { i.checked = localStorage.getItem(SOUND) === "on"; });
});
