// The page of a ticket: the composer, what changes around it, and its keys.
import { keysFree } from "./menus.js";
import { byId } from "./page.js";
import { offer } from "./palette.js";
import { arrange, follow } from "./ticket/live.js";
import { Pane } from "./ticket/pane.js";
import { showWalk, walkOn } from "./ticket/walk.js";

const panes = {};

document.addEventListener("alpine:init", () => {
  Alpine.data("composer", () => {
    return {
      tab: location.hash === "#note" ? "note" : "reply",
      get isReply() { return this.tab === "reply"; },
      get isNote() { return this.tab === "note"; },
      selected(tab) { return this.tab === tab ? "true" : "false"; },
      show(tab) {
        this.tab = tab;
        // At once, so that what is typed next lands in it.
        Object.values(panes).forEach(pane => { pane.form.style.display = pane.kind === tab ? "" : "none"; });
        panes[tab].focus();
      }
    };
  });
});

/** The one of the two that is shown. */
function shown() { return Object.values(panes).find(pane => pane.form.offsetParent) || panes.reply; }

function makePhrase(html) {
  const form = byId("new-phrase");
  form.elements.html.value = html;
  form.requestSubmit();
}

const BUTTONS = { a: "tab-reply", w: "tab-note", m: "open-macros" };
function keys(e) {
  if (!keysFree(e)) { return; }
  walkOn(e);
  const id = BUTTONS[e.key.toLowerCase()];
  const button = id && byId(id);
  if (button) { e.preventDefault(); button.click(); }
}

document.addEventListener("DOMContentLoaded", () => {
  const root = byId("ticket");
  if (!root) { return; }
  const number = Number(root.dataset.number);
  showWalk(number);
  arrange();
  document.querySelectorAll(".pane").forEach(form => {
    panes[form.dataset.kind] = new Pane(form, { number, me: root.dataset.me });
    form.hidden = false;
  });
  follow({ number, seen: Number(root.dataset.seen) });
  document.addEventListener("keydown", keys);
  addEventListener("pagehide", () => { Object.values(panes).forEach(pane => { pane.leave(); }); });
  offer([
    { words: "Write a reply", kind: "action", go() { byId("tab-reply").click(); } },
    { words: "Write a note", kind: "action", go() { byId("tab-note").click(); } },
    { words: "Put a phrase into the text", kind: "action", go() { shown().phrases.begin(); } },
    { words: "Make a phrase of what is written", kind: "action", go() { makePhrase(shown().html()); } }
  ]);
  if (location.hash) {
    const to = document.querySelector(location.hash);
    if (to) { to.scrollIntoView(); }
  } else {
    window.scrollTo(0, 0);
  }
  document.dispatchEvent(new CustomEvent("rafter:settled"));
});
