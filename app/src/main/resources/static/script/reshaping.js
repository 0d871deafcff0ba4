// Forms whose shape the server keeps: a changed choice asks for the form anew, with everything that was typed in it.
import { ask } from "./server.js";
import { announce, toast } from "./messages.js";
import { atRest } from "./press.js";

// One after the other, each with the form as the one before left it.
let busy = Promise.resolve();
function reshape(form, act) {
  const place = form.parentElement.id;
  busy = busy.then(() => {
    return reshapeNow(document.querySelector("#" + CSS.escape(place) + " > form") || form, act);
  }).catch(() => {
    toast("Rafter does not answer. What you typed is still here; try again in a moment.", null, true);
  });
}
function reshapeNow(form, act) {
  const body = new URLSearchParams(new FormData(form));
  body.set("act", act);
  const began = document.activeElement;
  const state = e => e.type === "checkbox" ? e.checked : e.value;
  const asked = new Map(Array.from(form.elements).map(e => [e, state(e)]));
  return ask(form.action, { method: "POST", body }).then(a => a.text()).then(atRest).then(html => {
    const fresh = new DOMParser().parseFromString(html, "text/html").getElementById(form.parentElement.id);
    if (!fresh) { form.submit(); return; }
    // Several values of one part share a name; they are told apart by their order.
    const same = (place, e) => Array.from(place.querySelectorAll("[name='" + CSS.escape(e.name) + "']"));
    const fields = Array.from(form.elements).filter(e => e.name);
    const places = new Map(fields.map(e => [e, same(form, e).indexOf(e)]));
    const twin = e => same(fresh, e)[places.get(e)];
    const known = new Set(Array.from(form.elements).map(e => e.name));
    const stops = place => {
      return Array.from(place.querySelectorAll("select, input:not([type=hidden]), button:not([tabindex='-1'])"));
    };
    const stood = stops(form).indexOf(began);
    // What was typed while the answer was on its way is carried over.
    asked.forEach((value, e) => {
      if (!e.name || e.name === "act" || state(e) === value) { return; }
      const there = twin(e);
      if (there && there.type === "checkbox") { there.checked = e.checked; } else if (there) { there.value = e.value; }
    });
    // Whoever has gone on to another field stays there, with the cursor where it was.
    const at = form.contains(document.activeElement) ? document.activeElement : began;
    const named = at && at.name && at.name !== "act";
    const from = named && typeof at.selectionStart === "number" ? at.selectionStart : null;
    form.parentElement.replaceWith(fresh);
    // After a part was added it is filled; after one was taken away, what stands in its place has the focus.
    const added = named ? null : stops(fresh).find(e => e.name !== "act" && !known.has(e.name));
    let next = named ? twin(at) : added || fresh.querySelector("[name=act][value='" + CSS.escape(act) + "']");
    next = next || stops(fresh)[Math.min(Math.max(stood, 0), stops(fresh).length - 1)];
    if (next) { next.focus({ preventScroll: true }); }
    const reads = fresh.querySelector(".reads");
    if (reads) { announce(reads.textContent.trim()); }
    if (next && from !== null && next.setSelectionRange) { next.setSelectionRange(from, from); }
  });
}
// Whoever chooses by typing goes through choices that are not meant: they are done when they pause, go on or press Enter.
let byKey = false, waiting = null;
function settle() {
  if (!waiting) { return; }
  clearTimeout(waiting.timer);
  const form = waiting.form;
  waiting = null;
  reshape(form, "shape");
}
document.addEventListener("keydown", e => {
  byKey = true;
  if (e.key === "Enter" && waiting && e.target.matches("select")) { e.preventDefault(); settle(); }
}, true);
document.addEventListener("pointerdown", () => { byKey = false; }, true);
document.addEventListener("focusout", e => { if (waiting && e.target === waiting.field) { settle(); } });
document.addEventListener("change", e => {
  const form = e.target.closest("[data-reshape-form]");
  if (!form || !e.target.hasAttribute("data-reshape")) { return; }
  if (waiting) { clearTimeout(waiting.timer); waiting = null; }
  if (!byKey || !e.target.matches("select")) { reshape(form, "shape"); return; }
  waiting = { form, field: e.target, timer: setTimeout(settle, 1200) };
});
document.addEventListener("submit", e => {
  const form = e.target, by = e.submitter;
  if (!form.hasAttribute("data-reshape-form") || !by || by.name !== "act" || by.value === "save") { return; }
  e.preventDefault();
  reshape(form, by.value);
});
