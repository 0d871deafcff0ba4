// Own fields in forms: choices in a tree are searched by name or walked level by level; lines of a form are moved by drag and by keys.
const BETWEEN = " / ";

function make(kind, properties) { return Object.assign(document.createElement(kind), properties); }

// The choice itself stays in the select, which the form sends; what is drawn instead only leads to it.
function drawTree(select) {
  select.dataset.drawn = "true";
  const label = select.closest("label");
  const name = label.firstChild.textContent.trim();
  const all = Array.from(select.options).map(o => o.value).filter(v => v);
  const place = make("div", { className: "tree" });
  const search = make("input", { type: "search", className: "form-control", id: select.id + "-search", autocomplete: "off" });
  search.placeholder = "Look for it by name";
  search.setAttribute("aria-label", name + ": look for it by name");
  const offered = make("datalist", { id: select.id + "-offered" });
  all.forEach(one => { offered.append(make("option", { value: one })); });
  search.setAttribute("list", offered.id);
  const levels = make("div", { className: "levels" });
  place.append(search, offered, levels);
  label.after(place);
  select.hidden = true;
  const choose = (value, at) => {
    select.value = value;
    search.setCustomValidity("");
    drawLevels(select, all, levels, name, choose);
    const focus = at ? document.getElementById(select.id + "-level-" + at) : null;
    if (focus) { focus.focus(); }
    select.dispatchEvent(new Event("change", { bubbles: true }));
  };
  search.addEventListener("change", e => {
    e.stopPropagation();
    const typed = search.value.trim().toLowerCase();
    if (!typed) { search.setCustomValidity(""); return; }
    const exact = all.filter(one => one.toLowerCase() === typed);
    const found = exact.length ? exact : all.filter(one => one.toLowerCase().endsWith(BETWEEN + typed));
    if (found.length === 1) { search.value = ""; choose(found[0]); return; }
    search.setCustomValidity(found.length ? "More than one is called so; choose one that is offered." : "Nothing is called so.");
    search.reportValidity();
  });
  drawLevels(select, all, levels, name, choose);
}
function drawLevels(select, all, levels, name, choose) {
  const path = select.value ? select.value.split(BETWEEN) : [];
  levels.replaceChildren();
  for (let depth = 0; depth <= path.length; depth++) {
    const above = path.slice(0, depth).join(BETWEEN);
    const below = all.filter(one => {
      return one.split(BETWEEN).length === depth + 1 && (!above || one.startsWith(above + BETWEEN));
    });
    if (!below.length) { return; }
    const level = make("select", { className: "form-select", id: select.id + "-level-" + (depth + 1) });
    level.setAttribute("aria-label", name + ", level " + (depth + 1));
    level.append(make("option", { value: above, textContent: depth ? "all of it" : "–" }));
    below.forEach(one => { level.append(make("option", { value: one, textContent: one.split(BETWEEN).pop() })); });
    level.value = path.slice(0, depth + 1).join(BETWEEN);
    level.addEventListener("change", e => {
      e.stopPropagation();
      choose(level.value, depth + 1);
    });
    levels.append(level);
  }
}
// Of the fields that can be filled only the chosen one is asked for, and what others hold is not sent.
function askForChosen(select) {
  select.closest("[data-for]").querySelectorAll("[data-own]").forEach(one => {
    const chosen = one.dataset.own === select.value;
    one.hidden = !chosen;
    one.querySelectorAll("[name]").forEach(input => { input.disabled = !chosen; });
  });
}
document.addEventListener("change", e => { if (e.target.matches("select[data-asks]")) { askForChosen(e.target); } });
document.addEventListener("DOMContentLoaded", () => { document.querySelectorAll("select[data-asks]").forEach(askForChosen); });

function drawTrees() { document.querySelectorAll("select[data-tree]:not([data-drawn])").forEach(drawTree); }
new MutationObserver(drawTrees).observe(document.documentElement, { childList: true, subtree: true });
document.addEventListener("DOMContentLoaded", drawTrees);

// Fields that are asked for anew keep the focus where it was, also in what is drawn here, unless somebody has gone on meanwhile;
// and what was typed since they were asked for.
let stood = "";
let sent = new Map();
let typed = new Map();
function filled(fields) {
  return new Map(Array.from(fields.querySelectorAll("[name]")).map(one => {
    const box = one.type === "checkbox" || one.type === "radio";
    return [box ? one.name + "=" + one.value : one.name, box ? one.checked : one.value];
  }));
}
document.addEventListener("htmx:beforeRequest", e => { if (e.target.id === "own-fields") { sent = filled(e.target); } });
document.addEventListener("htmx:beforeSwap", e => {
  if (e.target.id !== "own-fields") { return; }
  stood = document.activeElement.id;
  typed = new Map(Array.from(filled(e.target)).filter(one => sent.get(one[0]) !== one[1]));
});
document.addEventListener("htmx:afterSwap", e => {
  if (e.target.id !== "own-fields" || !typed.size) { return; }
  e.target.querySelectorAll("[name]").forEach(one => {
    const box = typed.get(one.name + "=" + one.value);
    if (box !== undefined) { one.checked = box; } else if (typed.has(one.name)) { one.value = typed.get(one.name); }
  });
  typed = new Map();
  e.target.dispatchEvent(new Event("change", { bubbles: true }));
});
document.addEventListener("htmx:afterSettle", () => {
  const there = stood && document.activeElement === document.body && document.getElementById(stood);
  stood = "";
  if (there) { there.focus({ preventScroll: true }); }
});

// ---------------------------------------------------------------- lines that are moved
let dragged = null;
function line(e) { return e.target.closest ? e.target.closest("[data-sortable] > li") : null; }
function renumber(list) {
  const lines = Array.from(list.children);
  lines.forEach((li, i) => {
    li.querySelectorAll("button[name=act]").forEach(b => {
      b.value = b.value.replace(/\d+$/, i);
      b.disabled = b.value.startsWith("up:") && i === 0 || b.value.startsWith("down:") && i === lines.length - 1;
    });
  });
}
document.addEventListener("dragstart", e => { dragged = line(e); });
document.addEventListener("dragover", e => {
  const over = dragged && line(e);
  if (!over || over.parentElement !== dragged.parentElement) { return; }
  e.preventDefault();
  if (over === dragged) { return; }
  const box = over.getBoundingClientRect();
  over[e.clientY > box.top + box.height / 2 ? "after" : "before"](dragged);
});
document.addEventListener("dragend", () => {
  if (dragged) { renumber(dragged.parentElement); }
  dragged = null;
});
document.addEventListener("keydown", e => {
  const li = e.altKey && (e.key === "ArrowUp" || e.key === "ArrowDown") ? line(e) : null;
  if (!li) { return; }
  e.preventDefault();
  const other = e.key === "ArrowUp" ? li.previousElementSibling : li.nextElementSibling;
  if (!other) { return; }
  const focused = document.activeElement;
  other[e.key === "ArrowUp" ? "before" : "after"](li);
  renumber(li.parentElement);
  focused.focus();
});
