// The palette: pages, actions and what the server finds, by a few letters; and the help on keys.
import { byId } from "./page.js";
import { ask } from "./server.js";
import { closeMenu, cover, keysFree, openMenu, uncover } from "./menus.js";

// What the page at hand adds to the palette.
let ofPage = [];
export function offer(some) { ofPage = some; }

// The pages that a person may see, asked for when the palette is first opened.
let places = null;
function fetchPlaces() {
  if (places) { return; }
  places = [];
  ask("/search/places").then(a => a.ok ? a.json() : []).then(all => {
    places = all.map(p => { return { words: p.words, kind: p.kind, path: p.go, go() { location.href = p.go; } }; });
    if (!byId("palette").hidden) { draw(); }
  });
}
function actions() {
  // Those that this page leads to are there at once; the others come when they were asked for.
  let all = [];

  const there = new Set();
  document.querySelectorAll("header.top nav a, .tabs a").forEach(a => {
    there.add(a.getAttribute("href"));
    const words = (a.firstChild || a).textContent.trim();
    all.push({ words, kind: a.closest(".tabs") ? "view" : "page", go() { location.href = a.href; } });
  });
  document.querySelectorAll("#thead [data-menu], .card-row.at a.pick, #side [data-menu]").forEach(a => {
    all.push({ words: a.getAttribute("aria-label") || a.textContent.trim(), kind: "action", go() { openMenu(a); } });
  });
  document.querySelectorAll("#thead form button, .card-row.at form button").forEach(b => {
    const words = b.getAttribute("aria-label") || b.textContent.trim() + " this ticket";
    all.push({ words, kind: "action", go() { b.click(); } });
  });
  const elsewhere = (places || []).filter(p => !there.has(p.path));
  all = all.concat(ofPage, elsewhere);
  const signOut = () => { document.querySelector("form[action='/sign-out']").requestSubmit(); };
  all.push(
    { words: "Keys", kind: "help", go: showKeys },
    { words: "Light or dark", kind: "look", go: switchTheme },
    { words: "Sign out", kind: "action", go: signOut });
  return all;
}
let shown = [], at = 0;
// What the server finds comes a moment after the pages and actions that are known here.
let found = { words: "", hits: [] }, looking = null;
function look(words) {
  clearTimeout(looking);
  if (words.length < 2) { return; }
  looking = setTimeout(() => {
    ask("/search/quick?q=" + encodeURIComponent(words)).then(a => a.ok ? a.json() : []).then(hits => {
      const those = hits.map(h => {
        return { words: h.words, kind: h.kind, go() { location.href = h.go; } };
      });
      found = { words, hits: those };
      if (!byId("palette").hidden && byId("palette-words").value.trim().toLowerCase() === words) { draw(); }
    });
  }, 150);
}
function draw() {
  const words = byId("palette-words").value.trim().toLowerCase();
  shown = actions().filter(a => { return words.split(/\s+/).every(w => a.words.toLowerCase().includes(w)); });
  if (/^\d+$/.test(words)) {
    shown.unshift({ words: "Ticket " + words, kind: "ticket", go() { location.href = "/tickets/" + words; } });
  }
  if (found.words === words) { shown = shown.concat(found.hits); } else { look(words); }
  if (words.length > 1) {
    const search = () => { location.href = "/search?q=" + encodeURIComponent(words); };
    shown.push({ words: "Search for “" + words + "”", kind: "search", go: search });
  }
  at = Math.min(at, Math.max(0, shown.length - 1));
  const list = byId("palette-list");
  list.replaceChildren.apply(list, shown.map((a, i) => {
    const li = document.createElement("li");
    li.id = "choice-" + i;
    li.setAttribute("role", "option");
    li.setAttribute("aria-selected", String(i === at));
    li.append(a.words);
    const kind = document.createElement("span");
    kind.textContent = a.kind;
    li.append(kind);
    li.addEventListener("click", () => { uncover("palette"); a.go(); });
    return li;
  }));
  if (!shown.length) {
    const none = document.createElement("li");
    none.textContent = "Nothing of that name. Try a page, a ticket’s number, or words.";
    list.append(none);
  }
  byId("palette-words").setAttribute("aria-activedescendant", shown.length ? "choice-" + at : "");
  const chosen = byId("choice-" + at);
  if (chosen) { chosen.scrollIntoView({ block: "nearest" }); }
}
export function showPalette() { fetchPlaces(); at = 0; byId("palette-words").value = ""; cover("palette", byId("palette-words")); draw(); }
export function showKeys() { cover("keys", byId("keys").querySelector(".over")); }
export function switchTheme() {
  const next = document.documentElement.getAttribute("data-bs-theme") === "dark" ? "light" : "dark";
  document.documentElement.setAttribute("data-bs-theme", next);
  localStorage.setItem("theme", next);
}
document.addEventListener("keydown", e => {
  if (!byId("palette")) { return; }
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "k") {
    e.preventDefault();
    if (byId("palette").hidden) { showPalette(); } else { uncover("palette"); }
    return;
  }
  if (e.key === "Escape") {
    if (!byId("menu").hidden) { closeMenu(true); return; }
    ["palette", "keys"].forEach(id => { if (!byId(id).hidden) { uncover(id); } });
    return;
  }
  if (!byId("palette").hidden) {
    if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      e.preventDefault();
      at = (at + (e.key === "ArrowDown" ? 1 : shown.length - 1)) % Math.max(1, shown.length);
      draw();
    }
    if (e.key === "Enter" && shown[at]) { e.preventDefault(); uncover("palette"); shown[at].go(); }
    return;
  }
  if (!byId("menu").hidden && (e.key === "ArrowDown" || e.key === "ArrowUp")) {
    const choices = Array.from(byId("menu").querySelectorAll("button.choice, a.choice"));
    if (!choices.length) { return; }
    e.preventDefault();
    const i = choices.indexOf(document.activeElement);
    choices[(i + (e.key === "ArrowDown" ? 1 : choices.length - 1)) % choices.length].focus();
    return;
  }
  if (e.key === "?" && keysFree(e)) { e.preventDefault(); showKeys(); }
});
document.addEventListener("input", e => { if (e.target.id === "palette-words") { at = 0; draw(); } });
