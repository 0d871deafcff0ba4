// Phrases while one writes: two commas and a few letters of a name offer them at the place where one writes.
import { ask } from "./server.js";

// After a blank or at the beginning, so that two commas within words mean nothing.
const SIGN = /(^|\s)(,,([\p{L}\p{N}-][\p{L}\p{N} -]{0,39})?)$/u;

/** Offers phrases in an editor. `changed` is told that the text became another one; `say` says something to who writes. */
export function offerPhrases({ quill, place, number, changed, say }) {
  const list = document.createElement("ul");
  list.className = "phrases";
  list.id = "phrases-" + Math.random().toString(36).slice(2);
  list.setAttribute("role", "listbox");
  list.setAttribute("aria-label", "Phrases");
  list.hidden = true;
  // Over the whole pane, for the text itself is cut off where it scrolls.
  const pane = place.parentElement;
  pane.append(list);
  const editor = quill.root;
  let offered = [], at = 0, asked = null, timer = null;

  function typed() {
    const range = quill.getSelection();
    if (!range || range.length) { return null; }
    const [line, offset] = quill.getLine(range.index);
    if (!line) { return null; }
    const found = SIGN.exec(quill.getText(range.index - offset, offset));
    return found && { letters: (found[3] || "").trim(), from: range.index - found[2].length, length: found[2].length };
  }
  function close() {
    list.hidden = true;
    offered = [];
    asked = null;
    editor.removeAttribute("aria-activedescendant");
  }
  function draw() {
    list.replaceChildren(...offered.map((phrase, i) => {
      const li = document.createElement("li");
      li.id = list.id + "-" + i;
      li.setAttribute("role", "option");
      li.setAttribute("aria-selected", String(i === at));
      const name = document.createElement("span"), detail = document.createElement("span");
      name.textContent = phrase.name;
      detail.textContent = phrase.detail;
      li.append(name, detail);
      li.addEventListener("mousedown", e => { e.preventDefault(); choose(i); });
      return li;
    }));
    if (!offered.length) {
      const none = document.createElement("li");
      none.className = "none";
      none.textContent = "No phrase begins like that. Esc leaves the letters as they are.";
      list.append(none);
    }
    editor.setAttribute("aria-activedescendant", offered.length ? list.id + "-" + at : "");
  }
  function open() {
    const range = quill.getSelection();
    const where = quill.getBounds(range ? range.index : 0);
    const holder = pane.getBoundingClientRect(), box = quill.container.getBoundingClientRect();
    list.hidden = false;
    list.style.left = Math.max(0, Math.min(where.left + box.left - holder.left, holder.width - 330)) + "px";
    // Above the line, for below is the end of the window.
    list.style.bottom = holder.bottom - box.top - where.top + 4 + "px";
  }
  function look() {
    const now = typed();
    if (!now) { close(); return; }
    if (asked === now.letters) { return; }
    asked = now.letters;
    clearTimeout(timer);
    timer = setTimeout(() => {
      ask("/tickets/" + number + "/phrases?q=" + encodeURIComponent(now.letters)).then(a => a.ok ? a.json() : []).then(some => {
        if (asked !== now.letters) { return; }
        offered = some;
        at = 0;
        draw();
        open();
        say(some.length === 1 ? "One phrase" : some.length + " phrases");
      });
    }, 80);
  }
  function choose(i) {
    const now = typed(), phrase = offered[i];
    if (!now || !phrase) { return; }
    quill.deleteText(now.from, now.length, "user");
    const before = quill.getLength();
    quill.clipboard.dangerouslyPasteHTML(now.from, phrase.html, "user");
    quill.setSelection(now.from + quill.getLength() - before, 0, "silent");
    close();
    changed();
    say("“" + phrase.name + "” is in the text");
    ask("/tickets/" + number + "/phrases/" + phrase.id + "/used", { method: "POST" }).catch(() => {});
  }
  quill.on("text-change", (d, o, source) => { if (source === "user") { look(); } });
  editor.addEventListener("blur", () => { setTimeout(close, 150); });
  place.addEventListener("keydown", e => {
    if (list.hidden) { return; }
    const go = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (go && offered.length) {
      at = (at + go + offered.length) % offered.length;
      draw();
    } else if ((e.key === "Enter" || e.key === "Tab") && offered.length && !e.ctrlKey && !e.metaKey) {
      choose(at);
    } else if (e.key === "Escape") {
      list.hidden = true;
      offered = [];
    } else { return; }
    e.preventDefault();
    e.stopPropagation();
  }, true);
  return {
    /** Begins to choose one, as though the sign had been typed. */
    begin() {
      quill.focus();
      const range = quill.getSelection(true);
      const before = range.index ? quill.getText(range.index - 1, 1) : "\n";
      quill.insertText(range.index, /\s/.test(before) ? ",," : " ,,", "user");
      quill.setSelection(range.index + (/\s/.test(before) ? 2 : 3), 0, "user");
      asked = null;
      look();
    }
  };
}

const NAME = /\{([a-z]+(?: [a-z]+)*)\}/g;

// What has no value is coloured where it stands, by the browser alone: the text itself stays as it is.
const coloured = "Highlight" in window ? new Highlight() : null;
if (coloured) { CSS.highlights.set("no-value", coloured); }
function colour(root, before) {
  before.forEach(range => { coloured.delete(range); });
  const ranges = [];
  const texts = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
  while (texts.nextNode()) {
    for (const found of texts.currentNode.data.matchAll(NAME)) {
      const range = new StaticRange({
        startContainer: texts.currentNode, startOffset: found.index,
        endContainer: texts.currentNode, endOffset: found.index + found[0].length
      });
      coloured.add(range);
      ranges.push(range);
    }
  }
  return ranges;
}

/** Fills in what is typed in braces, and says what of a text has no value or is not known. */
export function fillBlanks({ quill, values, mark }) {
  const words = names => "{" + names.join("}, {") + "}";
  let ranges = [];
  function check() {
    if (coloured) { ranges = colour(quill.root, ranges); }
    const left = [...new Set([...quill.getText().matchAll(NAME)].map(m => m[1]))];
    const empty = left.filter(name => name in values && !values[name]), unknown = left.filter(name => !(name in values));
    const said = [];
    if (empty.length) { said.push(words(empty) + (empty.length === 1 ? " has" : " have") + " no value here."); }
    if (unknown.length) { said.push("Nobody knows what " + words(unknown) + (unknown.length === 1 ? " stands" : " stand") + " for."); }
    mark(said.join(" "));
  }
  quill.on("text-change", (d, o, source) => {
    const range = source === "user" && quill.getSelection();
    if (range) {
      const [line, offset] = quill.getLine(range.index);
      const found = line && /\{([a-z]+(?: [a-z]+)*)\}$/.exec(quill.getText(range.index - offset, offset));
      if (found && values[found[1]]) {
        const from = range.index - found[0].length;
        // After what called us is done, for the text is being changed just now.
        setTimeout(() => {
          if (quill.getText(from, found[0].length) !== found[0]) { return; }
          quill.deleteText(from, found[0].length, "user");
          quill.insertText(from, values[found[1]], "user");
          quill.setSelection(from + values[found[1]].length, 0, "silent");
        });
      }
    }
    check();
  });
  check();
}
