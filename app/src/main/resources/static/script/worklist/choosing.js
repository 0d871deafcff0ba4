// Choosing rows, to act on them together.
import { announce } from "../messages.js";
import { byId } from "../page.js";
import { csrfToken } from "../server.js";
import { cards, list, query } from "./list.js";

export let chosen = new Set();

export let except = new Set();
export let all = false;
let lastChosen = null;
function chosenKey() { return "chosen:" + query(); }
export function restoreChosen() {
  try {
    JSON.parse(sessionStorage.getItem(chosenKey()) || "[]").forEach(n => { chosen.add(n); });
  } catch (e) { /* nothing was kept */ }
  showChosen();
}
export function showChosen() {
  cards().forEach(c => {
    const on = all ? !except.has(c.dataset.number) : chosen.has(c.dataset.number), box = c.querySelector(".choose");
    c.classList.toggle("chosen", on);
    if (box) { box.checked = on; }
  });
  const bar = byId("chosen"), count = all ? Number(bar.dataset.total) - except.size : chosen.size;
  bar.hidden = count === 0;
  document.body.classList.toggle("choosing", count > 0);
  bar.querySelector("[data-chosen-count]").textContent = all && !except.size ? "All " + count + " chosen" : count + " chosen";
  sessionStorage.setItem(chosenKey(), JSON.stringify(Array.from(chosen)));
  if (count !== told) { announce(count ? bar.querySelector("[data-chosen-count]").textContent : "None chosen"); told = count; }
}
let told = 0;
export function choose(card, on, range) {
  const rows = cards(), from = range && lastChosen ? rows.findIndex(c => c.dataset.number === lastChosen) : -1;
  const to = rows.indexOf(card);
  // When all were chosen, those that are not in sight stay chosen.
  const add = n => { if (all) { except.delete(n); } else { chosen.add(n); } };
  const remove = n => { if (all) { except.add(n); } else { chosen.delete(n); } };
  (from < 0 ? [card] : rows.slice(Math.min(from, to), Math.max(from, to) + 1)).forEach(c => {
    if (on) { add(c.dataset.number); } else { remove(c.dataset.number); }
  });
  lastChosen = card.dataset.number;
  showChosen();
}
document.addEventListener("click", e => {
  const box = e.target.closest(".choose");
  if (box) { choose(box.closest(".card-row"), box.checked, e.shiftKey); return; }
  if (!list()) { return; }
  if (e.target.closest("[data-choose-all]")) { all = true; except.clear(); showChosen(); }
  if (e.target.closest("[data-choose-none]")) { all = false; except.clear(); chosen.clear(); showChosen(); }
  if (e.target.closest("[data-batch]")) { batch(); }
});
export function batch() {
  const form = document.createElement("form");
  form.method = "post";
  form.action = "/batches/new";
  const fields = {
    _csrf: csrfToken(),
    list: query(),
    numbers: all ? "" : Array.from(chosen).join(","),
    all: all ? "true" : "",
    except: Array.from(except).join(",")
  };
  Object.keys(fields).forEach(name => {
    const i = document.createElement("input");
    i.type = "hidden";
    i.name = name;
    i.value = fields[name];
    form.append(i);
  });
  document.body.append(form);
  form.submit();
}
