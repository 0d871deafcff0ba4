// The palette: pages, actions and what the server finds, by a few letters; and the help on keys.
import { byId } from "./page.js";
import { ask } from "./server.js";
import { closeMenu, cover, keysFree, openMenu, uncover } from "./menus.js";

// What the page at hand adds to the palette.
let ofPage = [];
export function offer(some) { ofPage = some; }

function goTo(address) { return () => { location.href = address; }; }
async function asked(address) {
  const answer = await ask(address);
  return answer.ok ? answer.json() : [];
}

/** What the page leads to, and what can be done on it. */
function onPage() {
  const links = Array.from(document.querySelectorAll("header.top nav a, .tabs a"), a => {
    const words = (a.firstChild || a).textContent.trim();
    return { words, kind: a.closest(".tabs") ? "view" : "page", path: a.getAttribute("href"), go: goTo(a.href) };
  });
  const menus = Array.from(document.querySelectorAll("#thead [data-menu], .card-row.at a.pick, #side [data-menu]"), a => {
    return { words: a.getAttribute("aria-label") || a.textContent.trim(), kind: "action", go() { openMenu(a); } };
  });
  const buttons = Array.from(document.querySelectorAll("#thead form button, .card-row.at form button"), b => {
    return { words: b.getAttribute("aria-label") || b.textContent.trim() + " this ticket", kind: "action", go() { b.click(); } };
  });
  return [...links, ...menus, ...buttons, ...ofPage];
}
function everywhere() {
  return [
    { words: "Keys", kind: "help", go: showKeys },
    { words: "Light or dark", kind: "look", go: switchTheme },
    { words: "Sign out", kind: "action", go() { document.querySelector("form[action='/sign-out']").requestSubmit(); } }
  ];
}
/** What no list has, but the words themselves say. */
function byWords(words) {
  const ticket = { words: "Ticket " + words, kind: "ticket", go: goTo("/tickets/" + words) };
  const search = { words: "Search for “" + words + "”", kind: "search", go: goTo("/search?q=" + encodeURIComponent(words)) };
  return { first: /^\d+$/.test(words) ? [ticket] : [], last: words.length > 1 ? [search] : [] };
}

let palette = null;
document.addEventListener("alpine:init", () => {
  Alpine.data("palette", () => {
    return {
      shown: [],
      at: 0,
      // The pages that a person may see, asked for when the palette is first opened.
      places: null,
      // What the server finds comes a moment after the pages and actions that are known here.
      found: { words: "", hits: [] },
      looking: null,
      init() { palette = this; },
      get active() { return this.shown.length ? this.shown[this.at].id : ""; },
      get none() { return !this.shown.length; },
      get words() { return byId("palette-words").value.trim().toLowerCase(); },
      begin() {
        byId("palette-words").value = "";
        cover("palette", byId("palette-words"));
        this.typed();
        this.fetchPlaces();
      },
      typed() {
        this.at = 0;
        this.draw();
      },
      async fetchPlaces() {
        if (this.places) { return; }
        this.places = [];
        const all = await asked("/search/places");
        this.places = all.map(p => { return { words: p.words, kind: p.kind, path: p.go, go: goTo(p.go) }; });
        this.draw();
      },
      look(words) {
        clearTimeout(this.looking);
        if (words.length < 2) { return; }
        this.looking = setTimeout(async () => {
          const hits = await asked("/search/quick?q=" + encodeURIComponent(words));
          this.found = { words, hits: hits.map(h => { return { words: h.words, kind: h.kind, go: goTo(h.go) }; }) };
          if (this.words === words) { this.draw(); }
        }, 150);
      },
      draw() {
        const { words } = this;
        // Those that this page leads to are there at once; the others come when they were asked for.
        const here = onPage();
        const there = new Set(here.map(a => a.path));
        const elsewhere = (this.places || []).filter(p => !there.has(p.path));
        const named = [...here, ...elsewhere, ...everywhere()].filter(a => {
          return words.split(/\s+/).every(w => a.words.toLowerCase().includes(w));
        });
        const said = byWords(words);
        const known = this.found.words === words;
        if (!known) { this.look(words); }
        const all = [...said.first, ...named, ...known ? this.found.hits : [], ...said.last];
        this.shown = all.map((a, i) => { return { ...a, id: "choice-" + i }; });
        this.stand(Math.min(this.at, Math.max(0, this.shown.length - 1)));
      },
      stand(at) {
        this.at = at;
        this.$nextTick(() => { byId(this.active)?.scrollIntoView({ block: "nearest" }); });
      },
      walk(e) {
        const step = { ArrowDown: 1, ArrowUp: this.shown.length - 1 }[e.key];
        if (step !== undefined) {
          e.preventDefault();
          this.stand((this.at + step) % Math.max(1, this.shown.length));
        } else if (e.key === "Enter" && this.shown.length) {
          e.preventDefault();
          this.take(this.shown[this.at]);
        }
      },
      take(choice) {
        uncover("palette");
        choice.go();
      }
    };
  });
});
export function showPalette() { palette?.begin(); }
export function showKeys() { cover("keys", byId("keys").querySelector(".over")); }
export function switchTheme() {
  const next = document.documentElement.getAttribute("data-bs-theme") === "dark" ? "light" : "dark";
  document.documentElement.setAttribute("data-bs-theme", next);
  localStorage.setItem("theme", next);
}

function walkMenu(e) {
  const choices = Array.from(byId("menu").querySelectorAll("button.choice, a.choice"));
  if (!choices.length) { return; }
  e.preventDefault();
  const i = choices.indexOf(document.activeElement);
  choices[(i + (e.key === "ArrowDown" ? 1 : choices.length - 1)) % choices.length].focus();
}
document.addEventListener("keydown", e => {
  if (!byId("palette")) { return; }
  const open = !byId("palette").hidden;
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "k") {
    e.preventDefault();
    if (open) { uncover("palette"); } else { showPalette(); }
  } else if (e.key === "Escape") {
    if (!byId("menu").hidden) { closeMenu(true); return; }
    ["palette", "keys"].forEach(id => { if (!byId(id).hidden) { uncover(id); } });
  } else if (!open && !byId("menu").hidden && (e.key === "ArrowDown" || e.key === "ArrowUp")) {
    walkMenu(e);
  } else if (!open && e.key === "?" && keysFree(e)) {
    e.preventDefault();
    showKeys();
  }
});
