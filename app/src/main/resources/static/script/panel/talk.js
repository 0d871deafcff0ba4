// Within the panel: what is written is kept until it is answered, and sent again under the same key; what comes is shown once, in order.
const byId = id => document.getElementById(id);
const panel = byId("panel");
const STORE = "rafter-talk-" + panel.dataset.word;
const within = window.parent !== window;
const RETRY = 3000, POLL = 4000, MOST_FILES = 25000000;

// ---------------------------------------------------------------- what outlives the page
function stored() { try { return JSON.parse(localStorage.getItem(STORE)) || {}; } catch { return {}; } }
const kept = stored();
function keep() {
  try { localStorage.setItem(STORE, JSON.stringify(kept)); } catch { /* it then lives as long as the page */ }
}
if (panel.dataset.token) { kept.token = panel.dataset.token; keep(); }
kept.unsent = kept.unsent || [];

const shown = new Set();
let last = 0, source = null, sending = false, stateTimer = null, lastState = null;
const files = new Map();

function key() {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, b => b.toString(16).padStart(2, "0")).join("");
}
function place() {
  const d = panel.dataset;
  return { path: d.path, title: d.title, language: d.language, searched: d.searched, invite: d.invite };
}
function form(fields) {
  const all = new FormData();
  Object.entries(fields).forEach(([name, value]) => { all.append(name, value); });
  return all;
}

// ---------------------------------------------------------------- drawing
function text(tag, css, words) {
  const e = document.createElement(tag);
  if (css) { e.className = css; }
  e.textContent = words;
  return e;
}
/** Addresses of pages in the words become links; nothing of the words is ever read as markup. */
function linked(into, words) {
  words.split(/(https?:\/\/[^\s<>"]+)/).forEach((part, i) => {
    if (i % 2 === 0) { into.append(part); return; }
    const a = text("a", "", part);
    a.href = part;
    a.target = "_blank";
    a.rel = "noopener noreferrer";
    into.append(a);
  });
}
function atEnd() { const l = byId("lines"); return l.scrollHeight - l.scrollTop - l.clientHeight < 60; }
function toEnd() { const l = byId("lines"); l.scrollTop = l.scrollHeight; }
function drawLine(line) {
  if (shown.has(line.seq)) { return; }
  shown.add(line.seq);
  const stay = atEnd();
  const el = document.createElement("div");
  el.className = "line " + line.who;
  el.dataset.seq = line.seq;
  if (line.who === "PERSON" || line.who === "HELPER") { el.append(text("span", "who", line.author)); }
  const words = document.createElement("span");
  linked(words, line.text);
  el.append(words);
  line.files.forEach(file => {
    const a = text("a", "files", file.name);
    a.href = "/talk/" + kept.token + "/files/" + file.id;
    a.setAttribute("download", file.name);
    el.append(a);
  });
  if (line.choices.length) {
    choices(el, line.choices.map(words => [words, () => send({ text: words })]));
  }
  if (line.press) {
    choices(el, [["Yes, that helped", () => helped(line.press, true)], ["No", () => helped(line.press, false)]]);
  }
  // Lines are in the order of their numbers, whatever order they come in.
  const after = Array.from(byId("lines").querySelectorAll(".line[data-seq]")).find(one => Number(one.dataset.seq) > line.seq);
  byId("lines").insertBefore(el, after || byId("lines").querySelector(".line.waits") || null);
  if (stay || line.who === "CUSTOMER") { toEnd(); }
}
function choices(el, all) {
  byId("lines").querySelectorAll(".choices").forEach(old => { old.remove(); });
  const row = document.createElement("div");
  row.className = "choices";
  all.forEach(([words, deed]) => {
    const b = text("button", "", words);
    b.type = "button";
    b.addEventListener("click", () => { row.remove(); deed(); byId("text").focus(); });
    row.append(b);
  });
  el.append(row);
}
function drawUnsent() {
  byId("lines").querySelectorAll(".line.waits").forEach(old => { old.remove(); });
  kept.unsent.forEach(one => {
    const el = text("div", "line CUSTOMER waits", one.text || one.words || "files");
    el.append(text("span", "who", "not sent yet"));
    byId("lines").append(el);
  });
  if (kept.unsent.length) { toEnd(); }
}
function drawState(state) {
  lastState = state;
  state.lines.forEach(drawLine);
  last = Math.max(last, state.last);
  byId("openers")?.remove();
  byId("with").textContent = state.ended ? "The chat has ended" : state.with ? "You talk with " + state.with : "Somebody comes soon";
  byId("typing").hidden = !state.typing;
  byId("typing").textContent = (state.with || "Somebody") + " is writing …";
  const waiting = byId("waiting");
  const words = state.place < 1 ? "" : (state.place === 1 ? "You are next" : "You are number " + state.place + " in line")
    + (state.expected ? "; it usually takes " + state.expected + "." : ".");
  waiting.hidden = !words;
  if (waiting.textContent !== words) { waiting.textContent = words; }
  byId("finish").hidden = state.ended;
  byId("attach").hidden = false;
  byId("after").hidden = !state.ended;
  byId("rate").hidden = state.rated;
  seenMark(state.read);
  sayRead();
}
function seenMark(read) {
  byId("lines").querySelectorAll(".mark").forEach(old => { old.remove(); });
  const own = Array.from(byId("lines").querySelectorAll(".line.CUSTOMER[data-seq]")).at(-1);
  if (own && Number(own.dataset.seq) <= read && own === Array.from(byId("lines").querySelectorAll(".line[data-seq]")).at(-1)) {
    own.after(text("span", "mark", "seen"));
    if (atEnd()) { toEnd(); }
  }
}
function trouble(words) { byId("trouble").textContent = words || ""; }

// ---------------------------------------------------------------- what comes
function listen() {
  if (!kept.token) { return; }
  if (source) { source.close(); }
  const link = byId("elsewhere");
  link.href = "/talk/" + kept.token;
  link.hidden = false;
  source = new EventSource("/talk/" + kept.token + "/live?after=" + last);
  source.onopen = () => { byId("lost").hidden = true; flush(); };
  source.addEventListener("state", e => { drawState(JSON.parse(e.data)); });
  source.onerror = () => {
    byId("lost").hidden = false;
    source.close();
    setTimeout(listen, RETRY);
    clearTimeout(stateTimer);
    stateTimer = setTimeout(look, POLL);
  };
}
/** Where no stream can be kept open it is asked for now and then. */
function look() {
  if (source && source.readyState === EventSource.OPEN) { return; }
  fetch("/talk/" + kept.token + "/state?after=" + last).then(a => {
    if (a.status === 404) { forget(); return null; }
    return a.ok ? a.json() : null;
  }).then(state => {
    if (state) { byId("lost").hidden = true; drawState(state); flush(); }
  }).catch(() => {});
}
function forget() {
  if (source) { source.close(); }
  delete kept.token;
  keep();
}
let saidRead = 0;
function sayRead() {
  if (document.hidden || !kept.token || last <= saidRead) { return; }
  saidRead = last;
  fetch("/talk/" + kept.token + "/read", { method: "POST", body: form({ seq: last }) }).catch(() => { saidRead = 0; });
}
document.addEventListener("visibilitychange", sayRead);

// ---------------------------------------------------------------- what goes
function send(one) {
  one.key = key();
  kept.unsent.push(one);
  keep();
  drawUnsent();
  flush();
}
/** One after the other, in order; what is not answered is sent again under its key. */
function flush() {
  if (sending || kept.unsent.length === 0) { return; }
  sending = true;
  const one = kept.unsent[0];
  deliver(one).then(answer => {
    sending = false;
    if (answer.status === 429) { setTimeout(flush, 1000 * Number(answer.headers.get("Retry-After") || 2)); return null; }
    if (answer.status >= 500) { setTimeout(flush, RETRY); return null; }
    return wordsOf(answer).then(said => { delivered(one, answer, said); });
  }).catch(() => {
    sending = false;
    byId("lost").hidden = false;
    setTimeout(flush, RETRY);
  });
}
/** What was answered; a page that says no is said in words of our own. */
function wordsOf(answer) {
  return answer.json().catch(() => ({
    words: answer.status === 413
      ? "That file is larger than 25 MB, so it was not sent."
      : "That could not be sent. Try again, or write it otherwise."
  }));
}
function deliver(one) {
  if (!kept.token) {
    return fetch("/panel/" + panel.dataset.word + "/chats", {
      method: "POST", body: form(Object.assign({ key: one.key, text: one.text || "", opener: one.opener || 0 }, place()))
    });
  }
  const body = form({ key: one.key, text: one.text || "", opener: one.opener || 0 });
  (files.get(one.key) || []).forEach(file => { body.append("file", file); });
  return fetch("/talk/" + kept.token + "/lines", { method: "POST", body });
}
function delivered(one, answer, said) {
  if (answer.status === 409 && kept.token) {
    // That chat is over for good: the same words begin a new one.
    forget();
    last = 0;
    saidRead = 0;
    shown.clear();
    byId("lines").querySelectorAll(".line").forEach(old => { old.remove(); });
    flush();
    return;
  }
  kept.unsent = kept.unsent.filter(other => other.key !== one.key);
  files.delete(one.key);
  if (answer.ok) {
    trouble("");
    if (said.token) { kept.token = said.token; keep(); listen(); } else if (!source || source.readyState !== EventSource.OPEN) { look(); }
  } else {
    trouble(said.words);
    // What was refused is back where it was written, unless something else is there by now.
    if (one.text && !byId("text").value) { byId("text").value = one.text; }
  }
  keep();
  drawUnsent();
  flush();
}
function helped(press, yes) {
  fetch("/talk/" + kept.token + "/helped", { method: "POST", body: form({ press, helped: yes }) }).then(look).catch(() => {
    trouble("That did not arrive. Write it, please.");
  });
}

// Files do not outlive the page, so who leaves while they are on their way is asked first.
addEventListener("beforeunload", e => { if (files.size) { e.preventDefault(); } });

const box = byId("text");
box.value = kept.draft || "";
byId("say").addEventListener("submit", e => {
  e.preventDefault();
  const words = box.value.trim();
  if (!words) { trouble("There are no words in it yet."); box.focus(); return; }
  box.value = "";
  kept.draft = "";
  trouble("");
  send({ text: words });
});
let typed = 0;
box.addEventListener("input", () => {
  kept.draft = box.value;
  keep();
  if (kept.token && Date.now() - typed > 3000) {
    typed = Date.now();
    fetch("/talk/" + kept.token + "/typing", { method: "POST" }).catch(() => {});
  }
});
box.addEventListener("keydown", e => {
  if (e.key === "Enter" && !e.shiftKey && !e.isComposing) { e.preventDefault(); byId("say").requestSubmit(); }
});
byId("openers")?.addEventListener("click", e => {
  const pressed = e.target.closest("[data-opener]");
  if (pressed) { send({ opener: Number(pressed.dataset.opener), words: pressed.textContent }); box.focus(); }
});
byId("attach").addEventListener("click", () => { byId("file").click(); });
byId("file").addEventListener("change", () => {
  const chosen = Array.from(byId("file").files);
  byId("file").value = "";
  const size = chosen.reduce((all, file) => all + file.size, 0);
  if (size > MOST_FILES) { trouble("Together these are larger than 25 MB, so nothing was sent. What you wrote is still here."); return; }
  const one = { text: box.value.trim(), words: chosen.map(file => file.name).join(", "), key: key() };
  box.value = "";
  kept.draft = "";
  files.set(one.key, chosen);
  // Files do not outlive the page, so they are not kept with what does.
  kept.unsent.push(one);
  drawUnsent();
  flush();
});
byId("leave").addEventListener("submit", e => {
  e.preventDefault();
  const f = e.target;
  kept.leaveKey = kept.leaveKey || key();
  keep();
  const body = new FormData(f);
  body.append("key", kept.leaveKey);
  fetch("/panel/" + panel.dataset.word + "/message", { method: "POST", body }).then(a => wordsOf(a).then(said => {
    byId("left").textContent = a.ok ? "Thank you. We answer by mail." : said.words;
    if (a.ok) { f.reset(); delete kept.leaveKey; keep(); }
  })).catch(() => { byId("left").textContent = "It did not arrive. What you typed is still here; try again."; });
});
byId("finish").addEventListener("click", () => {
  fetch("/talk/" + kept.token + "/end", { method: "POST" }).then(look).catch(() => { trouble("It did not arrive; try again."); });
});
byId("rate").addEventListener("submit", e => {
  e.preventDefault();
  const said = { rating: e.submitter.value, comment: e.target.elements.comment.value };
  fetch("/talk/" + kept.token + "/rate", { method: "POST", body: form(said) }).then(a => wordsOf(a).then(answer => {
    byId("rated").textContent = a.ok ? "" : answer.words;
    if (a.ok || a.status === 409) { byId("rate").hidden = true; }
  })).catch(() => { byId("rated").textContent = "That did not arrive; try again."; });
});
byId("copy").addEventListener("submit", e => {
  e.preventDefault();
  fetch("/talk/" + kept.token + "/copy", { method: "POST", body: new FormData(e.target) }).then(a => wordsOf(a).then(said => {
    byId("copied").textContent = a.ok ? "It is on its way." : said.words;
  })).catch(() => { byId("copied").textContent = "That did not arrive; try again."; });
});
if (within) {
  byId("fold").hidden = false;
  byId("fold").addEventListener("click", () => { window.parent.postMessage("fold", "*"); });
  document.addEventListener("keydown", e => { if (e.key === "Escape") { window.parent.postMessage("fold", "*"); } });
}
kept.unsent = kept.unsent.filter(one => one.text || one.opener);
// Until here nobody would have heard what was sent or pressed.
byId(kept.token || !panel.dataset.closed ? "say" : "leave").hidden = false;
document.querySelectorAll("[data-opener]").forEach(one => { one.disabled = false; });
if (kept.token) {
  listen();
  look();
} else if (document.activeElement === document.body) { byId("text").focus({ preventScroll: true }); }
drawUnsent();
flush();
