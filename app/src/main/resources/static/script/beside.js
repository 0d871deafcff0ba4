// What opens beside a ticket without leaving it: another ticket, a person, a company, a history, a letter outside, why a time is due.
import { toast, wordsOf } from "./messages.js";
import { again, byId } from "./page.js";
import { ask } from "./server.js";

const TICKET = /^\/tickets\/\d+$/;
const OF_TICKET = "history|alike|files|fit|consult|clocks|rules|outside";
const BESIDE = new RegExp("^/(tickets/\\d+(/(" + OF_TICKET + "))?|consults/\\d+|contacts/\\d+|people/companies/\\d+)$");
const trail = [];
let opener = null;

function partOf(html) {
  const page = new DOMParser().parseFromString(html, "text/html");
  return page.getElementById("glance") || page.querySelector("#main > *") || page.body;
}
function show(path, html, hash) {
  const place = byId("beside-body");
  place.replaceChildren(partOf(html));
  htmx.process(place);
  byId("beside-open").href = path;
  byId("beside-back").hidden = trail.length < 2;
  byId("beside").hidden = false;
  place.scrollTop = 0;
  byId("beside").focus({ preventScroll: true });
  place.dispatchEvent(new CustomEvent("rafter:shown", { bubbles: true }));
  const part = hash && place.querySelector(hash);
  if (part) { part.scrollIntoView(); }
}
function load(path, hash) {
  return ask(TICKET.test(path) ? path + "/glance" : path, {}).then(answer => answer.text().then(html => {
    if (!answer.ok) { toast(wordsOf(html).slice(0, 300), null, true); return; }
    show(path, html, hash);
  }));
}
export function closeBeside() {
  const sheet = byId("beside");
  if (!sheet || sheet.hidden) { return false; }
  sheet.hidden = true;
  byId("beside-body").replaceChildren();
  trail.length = 0;
  // What was changed there may stand on the ticket, too.
  document.dispatchEvent(new CustomEvent("rafter:all"));
  const back = opener && again(opener);
  if (back) { back.focus({ preventScroll: true }); }
  return true;
}
document.addEventListener("click", e => {
  const sheet = byId("beside");
  if (!sheet) { return; }
  if (e.target.closest("#beside-close, #beside [data-glance-close]")) { closeBeside(); return; }
  if (e.target.closest("#beside-back")) { trail.pop(); load(trail.at(-1)); return; }
  const link = e.target.closest("a[data-beside], #beside-body a[href]");
  if (!link || e.ctrlKey || e.metaKey || e.shiftKey) { return; }
  // Links within drawings know no parts of their address, so it is taken apart here.
  const to = new URL(link.getAttribute("href"), location.href);
  if (to.origin !== location.origin || !BESIDE.test(to.pathname)) { return; }
  e.preventDefault();
  if (sheet.contains(link) && to.pathname === location.pathname) { closeBeside(); return; }
  if (!sheet.contains(link)) { opener = link; trail.length = 0; }
  trail.push(to.pathname + to.search);
  load(trail.at(-1), to.hash);
});
document.addEventListener("keydown", e => {
  if (e.key === "Escape" && e.target.closest("#beside") && byId("menu").hidden) { e.stopPropagation(); closeBeside(); }
});
// A figure hands the ticket over to who stands at that place.
document.addEventListener("keydown", e => {
  const figure = /^[1-9]$/.test(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey && !e.target.closest("input, textarea, select");
  const to = figure && document.querySelector("[data-fit='" + e.key + "']");
  if (to && to.offsetParent) { e.preventDefault(); to.click(); }
});
// A form there is sent from there, and what comes of it is shown there.
document.addEventListener("submit", e => {
  const form = e.target;
  if (!form.closest("#beside-body") || form.matches("[hx-get], [hx-post], [data-whole]")) { return; }
  e.preventDefault();
  const fields = new URLSearchParams(new FormData(form, e.submitter));
  const action = e.submitter && e.submitter.hasAttribute("formaction") ? e.submitter.formAction : form.action;
  ask(action, { method: "POST", body: fields, headers: { Accept: "text/html" } }).then(answer => answer.text().then(html => {
    const path = new URL(answer.url).pathname;
    if (path === location.pathname) { toast(form.dataset.quick || "It is done."); closeBeside(); return; }
    if (TICKET.test(path)) { toast(form.dataset.quick || "It is done."); load(path); return; }
    show(path, html);
    const words = byId("beside-body").querySelector(".said, .trouble");
    if (words) { toast(words.textContent.trim(), null, words.matches(".trouble")); }
  }));
});
