// The desk: chats side by side. What comes is drawn by the server; what is typed is a draft, kept while it is typed and sent once.
import { byId, drawAnew } from "./page.js";
import { ask, askAnew, formOf } from "./server.js";
import { toast, wordsOf } from "./messages.js";

const GATHERED = 120, ELSEWHERE = 2500, QUIET = 500, NEAR = 66;
const parser = new DOMParser();
let timer = null, due = 0;

// ---------------------------------------------------------------- what comes
function toEnd(lines) { lines.scrollTop = lines.scrollHeight; }
function atEnd(lines) { return lines.scrollHeight - lines.scrollTop - lines.clientHeight < 60; }
function columns() { return Array.from(document.querySelectorAll(".desk-chat")); }
function refresh() {
  timer = null;
  askAnew("/chats").then(a => a.ok ? a.text() : null).then(html => {
    if (html === null) { return; }
    const page = parser.parseFromString(html, "text/html");
    drawAnew(() => { byId("desk-left").innerHTML = page.getElementById("desk-left").innerHTML; });
    const fresh = Array.from(page.querySelectorAll(".desk-chat"));
    fresh.forEach(one => { lay(one); });
    columns().forEach(old => {
      if (!fresh.some(one => one.dataset.ticket === old.dataset.ticket)) { leave(old); }
    });
    byId("desk-none").hidden = columns().length > 0;
    tick();
  }).catch(() => {});
}
function lay(one) {
  const here = document.querySelector(".desk-chat[data-ticket='" + one.dataset.ticket + "']");
  if (!here) {
    const added = document.importNode(one, true);
    document.querySelector(".desk-columns").append(added);
    begin(added);
    return;
  }
  const live = here.querySelector("[data-live]"), next = one.querySelector("[data-live]");
  if (live.innerHTML === next.innerHTML) { return; }
  const lines = live.querySelector(".desk-lines");
  const end = atEnd(lines), top = lines.scrollTop;
  drawAnew(() => {
    live.innerHTML = next.innerHTML;
    live.dataset.last = next.dataset.last;
  });
  const now = live.querySelector(".desk-lines");
  if (end) { toEnd(now); } else { now.scrollTop = top; }
  if (here.contains(document.activeElement)) { read(here); }
}
/** A chat that is over, or somebody else’s now: what was typed in it stays until it is looked at. */
function leave(old) {
  const typed = old.querySelector("textarea[name=text]").value.trim();
  if (typed && !old.dataset.over) {
    old.dataset.over = "1";
    trouble(old, "This chat is not yours any more, or has ended. What you typed is still here; copy it, or answer on the ticket.");
    return;
  }
  if (!typed) { old.remove(); }
}
/** What is said in a chat that stands here is shown at once; what happens elsewhere can wait a little. */
function soon(wait = GATHERED) {
  const at = Date.now() + wait;
  if (timer && due <= at) { return; }
  clearTimeout(timer);
  due = at;
  timer = setTimeout(refresh, wait);
}
["rafter:ticket", "rafter:talk"].forEach(news => {
  document.addEventListener(news, e => { soon(columns().some(one => one.dataset.ticket === String(e.detail)) ? GATHERED : ELSEWHERE); });
});
["rafter:all", "rafter:offer"].forEach(news => { document.addEventListener(news, () => { soon(); }); });
document.addEventListener("rafter:floor", () => { soon(ELSEWHERE); });
setInterval(() => { if (!document.hidden) { soon(); } }, 20000);

// ---------------------------------------------------------------- clocks
function words(seconds) {
  const all = Math.abs(Math.round(seconds));
  const h = Math.floor(all / 3600), m = Math.floor(all / 60) % 60, s = all % 60;
  return (h ? h + ":" + String(m).padStart(2, "0") : m) + ":" + String(s).padStart(2, "0");
}
function tick() {
  document.querySelectorAll("[data-due]").forEach(el => {
    const from = Date.parse(el.dataset.from), at = Date.parse(el.dataset.at), now = Date.now();
    const left = (at - now) / 1000, part = 100 * (now - from) / Math.max(1, at - from);
    const css = left < 0 ? "late" : part > NEAR ? "near" : "";
    el.textContent = left < 0 ? words(left) + " over" : "answer within " + words(left);
    el.className = "mono " + css;
    const bar = el.closest("header").querySelector("[data-bar]");
    if (bar) {
      bar.setAttribute("width", String(Math.max(0, Math.min(100, part))));
      bar.setAttribute("class", "used " + css);
    }
  });
}
setInterval(tick, 1000);

// ---------------------------------------------------------------- what goes
function trouble(column, said) {
  const place = column.querySelector(".desk-say .trouble");
  place.hidden = !said;
  place.textContent = said || "";
}
function escaped(text) {
  const p = document.createElement("p");
  p.textContent = text;
  return p.innerHTML.replace(/\n/g, "<br>");
}
function key() {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), b => b.toString(16).padStart(2, "0")).join("");
}
function read(column) {
  const live = column.querySelector("[data-live]");
  if (live.dataset.last === column.dataset.read || document.hidden) { return; }
  column.dataset.read = live.dataset.last;
  ask("/chats/" + column.dataset.ticket + "/read", { method: "POST", body: formOf({ seq: live.dataset.last }) }).catch(() => {});
}
function begin(column) {
  const form = column.querySelector(".desk-say"), box = form.querySelector("textarea"), number = column.dataset.ticket;
  let saving = null, busy = Promise.resolve(), pending = null;
  toEnd(column.querySelector(".desk-lines"));
  function save() {
    busy = busy.then(() => ask("/tickets/" + number + "/drafts/reply", {
      method: "POST",
      body: formOf({ html: box.value ? "<p>" + escaped(box.value) + "</p>" : "", then: "CUSTOMER", version: form.dataset.version })
    })).then(a => (a.ok || a.status === 409) ? a.json() : null).then(kept => {
      if (kept) { form.dataset.version = kept.version; }
    }).catch(() => {});
    return busy;
  }
  box.addEventListener("input", () => {
    clearTimeout(saving);
    saving = setTimeout(save, QUIET);
    phrases.look();
  });
  box.addEventListener("focus", () => { read(column); });
  box.addEventListener("keydown", e => {
    if (phrases.key(e)) { return; }
    if (e.key === "Enter" && !e.shiftKey && !e.isComposing) { e.preventDefault(); form.requestSubmit(); }
  });
  form.addEventListener("submit", e => {
    e.preventDefault();
    clearTimeout(saving);
    const files = Array.from(form.querySelectorAll(".file"), file => file.childNodes[1].textContent.trim());
    const text = box.value.trim() || files.join(", ");
    if (!text) { trouble(column, "There are no words in it yet."); return; }
    // The same words that did not arrive go under the same key again.
    if (!pending || pending.text !== text) { pending = { text, key: key() }; }
    const mine = pending;
    busy = busy.then(() => ask("/chats/" + number + "/say", {
      method: "POST", body: formOf({ text: mine.text, key: mine.key, asItIs: Boolean(mine.refused) })
    })).then(a => a.json().then(said => {
      if (!a.ok) {
        mine.refused = said.again;
        trouble(column, said.words + (said.again ? " Send it once more to have it go out as it is." : ""));
        return;
      }
      trouble(column, "");
      pending = null;
      form.dataset.version = "0";
      if (!box.value.trim() || box.value.trim() === mine.text) { box.value = ""; }
      form.querySelector("[data-files]").replaceChildren();
      soon();
    })).catch(() => { trouble(column, "Rafter does not answer. What you wrote is still here; send it again."); });
  });
  const input = form.querySelector("input[type=file]");
  form.querySelector("[data-attach]").addEventListener("click", () => { input.click(); });
  input.addEventListener("change", () => {
    Array.from(input.files).forEach(file => {
      busy = busy.then(() => {
        const body = new FormData();
        body.append("file", file);
        return ask("/tickets/" + number + "/drafts/reply/files", { method: "POST", body }).then(a => a.text().then(html => {
          if (!a.ok) { trouble(column, wordsOf(html)); return; }
          const place = form.querySelector("[data-files]");
          place.innerHTML = html;
          htmx.process(place);
          if (form.dataset.version === "0") { form.dataset.version = "1"; }
        }));
      }).catch(() => { trouble(column, file.name + " was not attached. What you wrote is still here."); });
    });
    input.value = "";
  });
  const phrases = phrasesOf(column, box, number);
  form.querySelector("[data-phrase]").addEventListener("click", () => { phrases.begin(); });
}

// ---------------------------------------------------------------- phrases
const SIGN = /(^|\s)(,,([\p{L}\p{N}-][\p{L}\p{N} -]{0,39})?)$/u;
function plain(html) {
  const body = parser.parseFromString(html.replace(/<br\s*\/?>/gi, "\n").replace(/<\/p>\s*<p[^>]*>/gi, "\n"), "text/html").body;
  return body.textContent.trim();
}
function phrasesOf(column, box, number) {
  const list = column.querySelector(".desk-phrases");
  let offered = [], at = 0, asked = null;
  function typed() {
    const found = SIGN.exec(box.value.slice(0, box.selectionStart));
    return found && { letters: (found[3] || "").trim(), from: box.selectionStart - found[2].length, length: found[2].length };
  }
  function close() { list.hidden = true; offered = []; asked = null; }
  function draw() {
    list.replaceChildren(...(offered.length ? offered : [{ name: "No phrase begins like that." }]).map((phrase, i) => {
      const li = document.createElement("li");
      li.setAttribute("role", "option");
      li.setAttribute("aria-selected", String(offered.length > 0 && i === at));
      li.textContent = phrase.name;
      li.addEventListener("mousedown", e => { e.preventDefault(); if (offered.length) { choose(i); } });
      return li;
    }));
    list.hidden = false;
  }
  function choose(i) {
    const now = typed(), phrase = offered[i];
    if (!now) { return; }
    const text = plain(phrase.html);
    box.setRangeText(text, now.from, now.from + now.length, "end");
    close();
    box.dispatchEvent(new Event("input"));
    ask("/tickets/" + number + "/phrases/" + phrase.id + "/used", { method: "POST" }).catch(() => {});
  }
  return {
    look() {
      const now = typed();
      if (!now) { close(); return; }
      if (asked === now.letters) { return; }
      asked = now.letters;
      ask("/tickets/" + number + "/phrases?q=" + encodeURIComponent(now.letters)).then(a => a.ok ? a.json() : []).then(some => {
        if (asked !== now.letters) { return; }
        offered = some;
        at = 0;
        draw();
      }).catch(close);
    },
    begin() {
      const before = box.value.slice(0, box.selectionStart);
      box.setRangeText(/(^|\s)$/.test(before) ? ",," : " ,,", box.selectionStart, box.selectionEnd, "end");
      box.focus();
      this.look();
    },
    key(e) {
      if (list.hidden) { return false; }
      const go = { ArrowDown: 1, ArrowUp: -1 }[e.key];
      if (go && offered.length) {
        at = (at + go + offered.length) % offered.length;
        draw();
      } else if ((e.key === "Enter" || e.key === "Tab") && offered.length) {
        choose(at);
      } else if (e.key === "Escape") {
        close();
      } else { return false; }
      e.preventDefault();
      e.stopPropagation();
      return true;
    }
  };
}

// ---------------------------------------------------------------- what is done with a chat
document.addEventListener("submit", e => {
  const form = e.target;
  if (!form.matches("[data-quiet], [data-take]")) { return; }
  e.preventDefault();
  const body = new URLSearchParams(new FormData(form, e.submitter));
  ask(form.getAttribute("action"), { method: "POST", body }).then(a => a.text().then(html => {
    if (!a.ok) {
      let said = wordsOf(html);
      try { said = JSON.parse(html).words; } catch { /* a page */ }
      toast(said.slice(0, 300), null, true);
      return;
    }
    const open = form.closest("details");
    if (open) { open.open = false; }
    soon();
  })).catch(() => { toast("Rafter does not answer; nothing was done.", null, true); });
});
document.addEventListener("keydown", e => {
  const go = e.altKey && { ArrowRight: 1, ArrowLeft: -1 }[e.key];
  const all = columns();
  if (!go || !all.length) { return; }
  e.preventDefault();
  const i = all.findIndex(one => one.contains(document.activeElement));
  all[(i + go + all.length) % all.length].querySelector("textarea").focus();
});
columns().forEach(begin);
tick();
(document.querySelector(".desk-chat.wanted textarea") || document.querySelector(".desk-chat textarea"))?.focus();
