// The glance: a ticket unfolded in its row.
import { toast } from "../messages.js";
import { byId } from "../page.js";
import { ask } from "../server.js";
import { cards, get, list, query } from "./list.js";
import { go } from "./walking.js";

let glancing = null;
export function closeGlance(focus) {
  const open = byId("glance");
  if (!open) { return false; }
  const number = open.dataset.number;
  keepWords(open, number);
  open.closest("tr.glance-row") ? open.closest("tr.glance-row").remove() : open.remove();
  glancing = null;
  const card = cards().find(c => c.dataset.number === number);
  if (focus && card) { go(card); }
  return true;
}
// What was typed in a glance waits for the next one at the same ticket.
function wordsKey(number, form) { return "glance:" + number + ":" + form.getAttribute("action").split("/").pop(); }
function keepWords(open, number) {
  let some = false;
  open.querySelectorAll("form[data-quick]").forEach(form => {
    const text = form.elements.html.value;
    if (text.trim()) {
      sessionStorage.setItem(wordsKey(number, form), text);
      some = true;
    } else { sessionStorage.removeItem(wordsKey(number, form)); }
  });
  if (some) { toast("What you wrote about " + number + " is saved; glance at it again to go on."); }
}
function giveWordsBack(open, number) {
  open.querySelectorAll("form[data-quick]").forEach(form => {
    form.elements.html.value = sessionStorage.getItem(wordsKey(number, form)) || "";
  });
}
export function glance(number, at) {
  const same = glancing === number;
  closeGlance(same);
  if (same) { return; }
  glancing = number;
  const inList = !!(at && at.closest("#cards .card-row"));
  get("/tickets/" + number + "/glance").then(html => {
    if (glancing !== number) { return; }
    const part = new DOMParser().parseFromString(html, "text/html").getElementById("glance");
    if (!part) { return; }
    // The row may have been drawn anew meanwhile.
    const row = inList && byId("t" + number);
    if (row && row.tagName === "TR") {
      const tr = document.createElement("tr"), td = document.createElement("td");
      tr.className = "glance-row";
      td.colSpan = row.cells.length;
      td.append(part);
      tr.append(td);
      row.after(tr);
    } else if (row) { row.after(part); } else {
      part.classList.add("floating");
      document.body.append(part);
    }
    get("/worklist/why/" + number + "?" + query()).then(why => {
      if (byId("glance-why")) { byId("glance-why").innerHTML = why; }
    });
    giveWordsBack(part, number);
    part.scrollIntoView({ block: "nearest" });
    part.focus({ preventScroll: true });
  });
}
document.addEventListener("click", e => {
  const link = list() && e.target.closest("[data-glance], svg.strip a, .clock-mark");
  if (link && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
    e.preventDefault();
    glance(link.dataset.glance || link.getAttribute("href").split("/").pop(), link);
    return;
  }
  if (e.target.closest("[data-glance-close]")) { closeGlance(true); }
});
document.addEventListener("keydown", e => {
  const open = byId("glance");
  if (!open || !open.contains(e.target)) { return; }
  if (e.key === "Escape") { e.stopPropagation(); closeGlance(true); }
  if (e.key === " " && e.target === open) { e.preventDefault(); closeGlance(true); }
  if (e.key === "Enter" && (e.ctrlKey || e.metaKey) && e.target.form) {
    e.preventDefault();
    e.target.form.requestSubmit(e.target.form.querySelector("button"));
  }
});
document.addEventListener("submit", e => {
  const form = e.target;
  if (!form.hasAttribute("data-quick")) { return; }
  e.preventDefault();
  const text = form.elements.html;
  if (!text.value.trim()) { text.focus(); return; }
  ask(form.action, { method: "POST", body: new URLSearchParams(new FormData(form)) }).then(a => {
    if (a.ok && a.redirected) { toast(form.dataset.quick); text.value = ""; closeGlance(true); return; }
    // Something is in the way: the page that says so keeps what was written.
    return a.text().then(html => {
      const page = new DOMParser().parseFromString(html, "text/html");
      const words = page.querySelector(".trouble, .alone p, main p"), crossing = page.getElementById("crossing");
      toast((words ? words.textContent.trim() : "That did not work.") + " What you wrote is still here.", null, true);
      if (!crossing) { return; }
      // What came meanwhile is shown where the answer is written; sent once more it goes, for now it was seen.
      form.querySelectorAll(".crossing").forEach(old => { old.remove(); });
      crossing.removeAttribute("id");
      form.prepend(crossing);
      form.elements.seen.value = page.querySelector("input[name=seen]").value;
      form.querySelector("button").textContent = "Send all the same";
    });
  });
});
