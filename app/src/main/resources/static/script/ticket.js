// The page of a ticket: the editor, drafts that are kept while typing, files, and live changes around them.
import { keysFree } from "./menus.js";
import { drawAnew } from "./page.js";
import { toast, wordsOf } from "./messages.js";
import { offer } from "./palette.js";
import { fillBlanks, offerPhrases } from "./phrases.js";
import { ask, formOf } from "./server.js";

let root, number;
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
        Object.values(panes).forEach(p => { p.form.style.display = p.kind === tab ? "" : "none"; });
        panes[tab].focus();
      }
    };
  });
});

function Pane(form) {
  const self = this;
  this.form = form;
  this.kind = form.dataset.kind;
  this.version = Number(form.dataset.version);
  this.url = "/tickets/" + number + "/drafts/" + this.kind;
  this.words = form.querySelector(".kept");
  this.text = form.querySelector("textarea");
  this.place = form.querySelector(".editor");
  this.busy = Promise.resolve();
  this.place.hidden = false;
  this.text.hidden = true;
  form.elements.format.value = "html";
  const box = document.createElement("div");
  this.place.append(box);
  this.quill = new Quill(box, {
    placeholder: this.kind === "reply" ? "Write to the customer" : "Write to your colleagues",
    formats: ["bold", "italic", "underline", "strike", "link", "list", "blockquote", "code-block", "image"],
    // Tab leads out of the text, as out of every other field.
    modules: {
      keyboard: { bindings: { tab: null, indent: null, outdent: null, "indent code-block": null, "outdent code-block": null } },
      uploader: {
        mimetypes: ["image/png", "image/jpeg", "image/gif", "image/webp"],
        handler(range, files) { self.picture(range, files); }
      }
    }
  });
  box.querySelector(".ql-editor").setAttribute("aria-label", this.kind === "reply" ? "Reply" : "Note");
  box.querySelector(".ql-editor").setAttribute("role", "textbox");
  box.querySelector(".ql-editor").setAttribute("aria-multiline", "true");
  this.set(this.text.value);
  this.restore();
  this.quill.on("text-change", (d, o, source) => { if (source === "user") { self.changed(); } });
  this.phrases = offerPhrases({
    quill: this.quill, place: this.place, number, changed: () => { self.changed(); }, say: words => { self.say(words); }
  });
  const gaps = form.querySelector(".gaps");
  const composer = document.getElementById("composer");
  const values = JSON.parse(composer.dataset.blanks || "{}");
  fillBlanks({ quill: this.quill, values, mark(words) { gaps.textContent = words; gaps.hidden = !words; } });
  if (this.kind === "reply") { this.greeted(composer.dataset.greeting, composer.dataset.closing); }
  form.addEventListener("input", e => { if (["to", "cc", "bcc"].includes(e.target.name)) { self.changed(); } });
  form.addEventListener("click", e => {
    const whom = e.target.closest("[data-cc]");
    if (whom) { form.elements.cc.value = whom.dataset.cc; self.changed(); form.elements.cc.focus(); }
  });
  form.addEventListener("change", e => { if (e.target.name === "then") { self.changed(); } });
  form.querySelectorAll("[data-format]").forEach(b => {
    b.addEventListener("click", () => {
      const now = self.quill.getFormat()[b.dataset.format];
      self.quill.focus();
      self.quill.format(b.dataset.format, b.dataset.value ? (now === b.dataset.value ? false : b.dataset.value) : !now, "user");
    });
  });
  this.quill.on("editor-change", () => {
    if (!self.quill.hasFocus() || !self.quill.getSelection()) { return; }
    const now = self.quill.getFormat();
    form.querySelectorAll("[data-format]").forEach(b => {
      b.classList.toggle("on", b.dataset.value ? now[b.dataset.format] === b.dataset.value : !!now[b.dataset.format]);
    });
  });
  form.addEventListener("submit", e => { self.submit(e); });
  // It opens when the editor itself is entered, so that no button moves away under the pointer.
  this.place.addEventListener("focusin", () => { document.getElementById("composer").classList.add("open"); });
  if (this.html() !== "") { document.getElementById("composer").classList.add("open"); }
  this.place.addEventListener("keydown", e => {
    if ((e.ctrlKey || e.metaKey) && e.key === "Enter") { e.preventDefault(); form.requestSubmit(); }
  }, true);
  this.attaching();
}
Pane.prototype.html = function () {
  const text = this.quill.getText().trim();
  const empty = (text === "" || text === this.frame) && !this.place.querySelector("img");
  return empty ? "" : this.quill.getSemanticHTML().replace(/&nbsp;/g, " ");
};
Pane.prototype.set = function (html) { this.quill.setContents(this.quill.clipboard.convert({ html }), "silent"); };
// A reply that is begun has its greeting and closing; as long as there is nothing between them, it is empty.
// The caret is led between them once the browser has put it where it wants it, and at the latest before the first key is written.
Pane.prototype.greeted = function (greeting, closing) {
  const self = this;
  if (!greeting && !closing) { return; }
  this.frame = (greeting + "\n\n" + closing).trim();
  const editor = this.quill.root;
  let fresh = false;
  const lead = () => {
    if (!fresh) { return; }
    fresh = false;
    self.quill.setSelection(greeting ? greeting.length + 1 : 0, 0, "silent");
  };
  editor.addEventListener("focus", () => {
    if (self.quill.getText().trim() !== "" || self.place.querySelector("img")) { return; }
    self.quill.setContents([{ insert: self.frame + "\n" }], "silent");
    fresh = true;
    setTimeout(lead);
  });
  ["keydown", "beforeinput"].forEach(kind => { editor.addEventListener(kind, lead, true); });
  editor.addEventListener("blur", () => {
    fresh = false;
    if (self.quill.getText().trim() === self.frame) { self.quill.setContents([], "silent"); }
  });
};
Pane.prototype.focus = function () { this.quill.focus(); };
Pane.prototype.key = function () { return "draft-" + root.dataset.me + "-" + number + "-" + this.kind; };
Pane.prototype.fields = function () {
  const self = this;
  const field = name => self.form.elements[name] ? self.form.elements[name].value : "";
  const then = this.form.elements.then ? this.form.elements.then.value : "CUSTOMER";
  return { html: this.html(), to: field("to"), cc: field("cc"), bcc: field("bcc"), then, version: this.version };
};
// What could not be kept on the server is kept in the browser until it can.
Pane.prototype.restore = function () {
  const kept = localStorage.getItem(this.key());
  if (!kept) { return; }
  localStorage.removeItem(this.key());
  const f = JSON.parse(kept);
  if (f.html && f.html !== this.html()) { this.set(f.html); this.address(f); this.changed(); }
};
Pane.prototype.address = function (f) {
  const elements = this.form.elements;
  ["to", "cc", "bcc"].forEach(name => { if (elements[name] && f[name]) { elements[name].value = f[name]; } });
};
// A picture that is pasted or dropped into the text becomes a file of the draft, and the text refers to it.
Pane.prototype.picture = function (range, files) {
  const self = this;
  files.forEach(file => {
    self.say("Adding a picture …");
    self.busy = self.busy.then(() => {
      const body = new FormData();
      body.append("file", file);
      return ask(self.url + "/pictures", { method: "POST", body }).then(a => {
        if (!a.ok) {
          return a.text().then(t => {
            self.say("");
            toast(wordsOf(t), null, true);
          });
        }
        return a.json().then(there => {
          if (self.version === 0) { self.version = 1; }
          self.quill.insertEmbed(range.index, "image", there.address, "user");
          self.quill.setSelection(range.index + 1, 0, "silent");
          self.say("The picture is in the text");
        });
      }).catch(() => { self.say("Rafter does not answer; the picture was not added", true); });
    });
  });
};
Pane.prototype.counted = function () {
  const place = this.form.querySelector("[data-most]");
  if (!place) { return; }
  const left = Number(place.dataset.most) - Array.from(this.quill.getText().trim()).length;
  place.textContent = left < 0 ? -left + " letters too many" : left + " letters left";
};
Pane.prototype.changed = function () {
  const self = this;
  this.dirty = true;
  this.counted();
  localStorage.setItem(this.key(), JSON.stringify(this.fields()));
  clearTimeout(this.timer);
  this.timer = setTimeout(() => { self.save(); }, 700);
};
Pane.prototype.save = function () {
  const self = this;
  clearTimeout(this.timer);
  this.busy = this.busy.then(() => {
    if (!self.dirty) { return; }
    self.dirty = false;
    return ask(self.url, { method: "POST", body: formOf(self.fields()) }).then(a => {
      if (a.ok) {
        return a.json().then(k => {
          self.version = k.version;
          if (!self.dirty) { localStorage.removeItem(self.key()); }
          self.say("Draft saved " + k.at);
        });
      }
      if (a.status === 409) { return a.json().then(there => { self.changedElsewhere(there); }); }
      return a.text().then(t => {
        self.dirty = true;
        self.say(wordsOf(t) || "Not saved yet", true);
      });
    }).catch(() => {
      self.dirty = true;
      self.say("Rafter does not answer; your text is saved in this browser", true);
      self.timer = setTimeout(() => { self.save(); }, 5000);
    });
  });
  return this.busy;
};
Pane.prototype.say = function (words, bad) { this.words.textContent = words; this.words.classList.toggle("bad", !!bad); };
Pane.prototype.changedElsewhere = function (there) {
  const self = this;
  this.words.replaceChildren("Changed on another device. ");
  [["Use that", () => {
    self.set(there.html);
    self.address(there);
    self.version = there.version;
    localStorage.removeItem(self.key());
    self.say("Using that one");
  }],
   ["Keep this", () => { self.version = there.version; self.dirty = true; self.save(); }]].forEach(c => {
    const b = document.createElement("button");
    b.type = "button"; b.className = "btn small ms-1"; b.textContent = c[0];
    b.addEventListener("click", c[1]);
    self.words.append(b);
  });
};
Pane.prototype.submit = function (e) {
  const self = this;
  this.form.elements.html.value = this.html();
  if (this.ready) { localStorage.removeItem(this.key()); return; }
  e.preventDefault();
  if (this.html() === "") { this.say("There are no words in it yet", true); this.focus(); return; }
  // Everything that is still on its way to the draft arrives first; this also notices a session that has ended.
  this.dirty = true;
  this.save().then(() => {
    if (self.dirty) { return; }
    self.ready = true;
    self.form.requestSubmit();
  });
};
Pane.prototype.attaching = function () {
  const self = this, input = this.form.querySelector("input[type=file]");
  if (!input) {
    // By this way no files can be sent; one that is dropped does not take the page away.
    ["dragover", "drop"].forEach(what => { this.form.addEventListener(what, e => { e.preventDefault(); }); });
    return;
  }
  this.form.querySelector("[data-attach]").addEventListener("click", () => { input.click(); });
  input.addEventListener("change", () => { self.upload(Array.from(input.files)); input.value = ""; });
  this.form.addEventListener("dragover", e => { e.preventDefault(); });
  this.form.addEventListener("drop", e => {
    if (e.dataTransfer.files.length && !e.defaultPrevented) { e.preventDefault(); self.upload(Array.from(e.dataTransfer.files)); }
  });
};
Pane.prototype.upload = function (files) {
  const self = this;
  files.forEach(file => {
    if (file.size > 25000000) {
      const words = "“" + file.name + "” is larger than 25 MB and was not attached. Your text is saved; send a link instead.";
      toast(words, null, true);
      return;
    }
    self.say("Attaching " + file.name + " …");
    self.busy = self.busy.then(() => {
      const body = new FormData();
      body.append("file", file);
      return ask(self.url + "/files", { method: "POST", body }).then(a => {
        return a.text().then(html => {
          if (!a.ok) {
            self.say("");
            toast(wordsOf(html), null, true);
            return;
          }
          const place = self.form.querySelector("[data-files]");
          place.innerHTML = html;
          htmx.process(place);
          if (self.version === 0) { self.version = 1; }
          self.say(file.name + " is attached");
        });
      }).catch(() => { self.say("Rafter does not answer; " + file.name + " was not attached", true); });
    });
  });
};

// ---------------------------------------------------------------- live
// The parts that change come as one piece; each is laid into its place around the composer.
function arrange() {
  document.getElementById("talk-place").replaceChildren(document.getElementById("talk"));
  document.getElementById("side-place").replaceChildren(document.getElementById("side"));
  const words = document.getElementById("writing-words").dataset.words;
  const bar = document.getElementById("writing");
  bar.hidden = !words;
  bar.textContent = words ? words + (words.includes(" and ") ? " are" : " is") + " writing a reply to this ticket just now." : "";
}
let timer = null;
function refresh() {
  timer = null;
  ask("/tickets/" + number + "/live" + location.search, { headers: { "HX-Request": "true" } }).then(a => {
    return a.ok ? a.text() : null;
  }).then(html => {
    if (html === null) { return; }
    const open = Array.from(document.querySelectorAll("#talk details[open]")).map(d => {
      const e = d.closest(".entry");
      return e.id + ":" + Array.from(e.querySelectorAll("details")).indexOf(d);
    });
    const alike = document.querySelector("#alike:not([hx-get])");
    const y = scrollY;
    drawAnew(() => {
      document.getElementById("live").innerHTML = html;
      arrange();
      // What looks alike was looked for once and stays.
      if (alike) { document.getElementById("alike").replaceWith(alike); }
    });
    open.forEach(k => {
      const p = k.split(":"), e = document.getElementById(p[0]);
      const d = e && e.querySelectorAll("details")[Number(p[1])];
      if (d) { d.open = true; }
    });
    htmx.process(document.getElementById("live"));
    htmx.process(document.getElementById("side"));
    scrollTo(0, y);
    const seq = Number(document.getElementById("thead").dataset.seq);
    const bar = document.getElementById("meanwhile");
    if (seq > Number(root.dataset.seen)) {
      bar.hidden = false;
      bar.textContent = "Something new was written on this ticket while you are here. Read it above before you send.";
    }
  });
}
function soon(e) {
  if (root && (e.detail === undefined || e.detail === null || e.detail === number)) {
    clearTimeout(timer);
    timer = setTimeout(refresh, 200);
  }
}
document.addEventListener("rafter:ticket", soon);
document.addEventListener("rafter:writing", soon);
document.addEventListener("rafter:all", soon);
setInterval(() => { if (root && !document.hidden) { refresh(); } }, 60000);

// From one ticket of a list to the next without going back to it.
function showWalk() {
  let kept;
  try { kept = JSON.parse(sessionStorage.getItem("walk") || "null"); } catch (e) { kept = null; }
  const at = kept ? kept.numbers.indexOf(String(number)) : -1;
  const nav = document.getElementById("walk");
  if (kept) { nav.querySelector("[data-walk=list]").href = "/worklist?" + kept.list; }
  [["previous", at - 1], ["next", at + 1]].forEach(way => {
    const link = nav.querySelector("[data-walk=" + way[0] + "]"), to = at >= 0 && kept.numbers[way[1]];
    link.hidden = !to;
    if (to) { link.href = "/tickets/" + to; }
  });
  nav.querySelector("[data-walk=place]").textContent = at >= 0 ? at + 1 + " of " + kept.numbers.length + " in it" : "";
}
function walkOn(e) {
  const way = { ArrowRight: "next", ArrowLeft: "previous", l: "list", L: "list" }[e.key];
  const link = way && !e.shiftKey && document.querySelector("#walk [data-walk=" + way + "]");
  if (!link || link.hidden || e.target.closest("[role=tablist], svg")) { return; }
  e.preventDefault();
  location.href = link.href;
}
document.addEventListener("keydown", e => {
  if (!root || !keysFree(e)) { return; }
  walkOn(e);
  const tab = { a: "tab-reply", w: "tab-note" }[e.key.toLowerCase()];
  if (tab) { e.preventDefault(); document.getElementById(tab).click(); }
  const macros = e.key.toLowerCase() === "m" && document.getElementById("open-macros");
  if (macros) { e.preventDefault(); macros.click(); }
});
// The one of the two that is shown.
function open() { return Object.values(panes).find(p => p.form.offsetParent) || panes.reply; }
function makePhrase(html) {
  const form = document.getElementById("new-phrase");
  form.elements.html.value = html;
  form.requestSubmit();
}
document.addEventListener("DOMContentLoaded", () => {
  root = document.getElementById("ticket");
  if (!root) { return; }
  number = Number(root.dataset.number);
  // So that the list, come back to, stands where it was left.
  if (/^\/tickets\/\d+$/.test(location.pathname)) { sessionStorage.setItem("from-ticket", "1"); }
  showWalk();
  arrange();
  document.querySelectorAll(".pane").forEach(form => { panes[form.dataset.kind] = new Pane(form); form.hidden = false; });
  offer([
    { words: "Write a reply", kind: "action", go() { document.getElementById("tab-reply").click(); } },
    { words: "Write a note", kind: "action", go() { document.getElementById("tab-note").click(); } },
    { words: "Put a phrase into the text", kind: "action", go() { open().phrases.begin(); } },
    { words: "Make a phrase of what is written", kind: "action", go() { makePhrase(open().html()); } }
  ]);
  if (location.hash) { const to = document.querySelector(location.hash); if (to) { to.scrollIntoView(); } }
  else { window.scrollTo(0, 0); }
  document.dispatchEvent(new CustomEvent("rafter:settled"));
});
addEventListener("pagehide", () => { Object.values(panes).forEach(p => { if (p.dirty && !p.ready) { p.save(); } }); });
