// One way of asking the server: with the token, and going on after the session has ended.
import { byId, typing } from "./page.js";
import { atRest } from "./press.js";

export function csrfToken() { return document.querySelector("meta[name=csrf]").content; }
// Asks the server; waits for a new sign-in when the session has ended. Without any answer it fails as one that is "away".
export function ask(url, options) {
  const o = Object.assign({}, options);
  o.headers = Object.assign({ "X-Requested-With": "fetch", "X-CSRF-TOKEN": csrfToken() }, o.headers);
  return fetch(url, o).then(answer => {
    if (answer.status !== 401) { return answer; }
    return signInAgain().then(() => ask(url, options));
  }, failure => { throw Object.assign(failure, { away: true, changes: o.method === "POST" }); });
}
/**
 * Asks for a page that is open already: what it is to say once stays for whoever loads it. The answer comes when nobody
 * presses anything, so that it can be drawn at once.
 */
export function askAnew(url) {
  return ask(url, { headers: { "X-Anew": "true" } }).then(answer => {
    return answer.text().then(atRest).then(text => ({ ok: answer.ok, text: () => Promise.resolve(text) }));
  });
}
export function formOf(fields) { return new URLSearchParams(fields); }

let waiting = null, lastKey = 0, writtenIn = null;
document.addEventListener("keydown", e => { if (typing(e.target)) { lastKey = Date.now(); } }, true);
// The question takes the focus, so it waits for a pause: no letter of a word begun elsewhere lands in it.
function askToSignIn() {
  const pause = 1500 - (Date.now() - lastKey);
  if (pause > 0) { setTimeout(askToSignIn, pause); return; }
  writtenIn = document.activeElement;
  byId("over").hidden = false;
  byId("over-form").elements.password.focus();
}
export function signInAgain() {
  if (waiting) { return waiting; }
  const veil = byId("over");
  if (!veil) { location.href = "/sign-in"; return new Promise(() => {}); }
  waiting = new Promise(go => { veil.go = go; });
  askToSignIn();
  return waiting;
}
function freshToken() {
  return fetch("/sign-in/token", { headers: { "X-Requested-With": "fetch" } }).then(a => a.json()).then(t => {
    document.querySelector("meta[name=csrf]").content = t.token;
    document.querySelectorAll("input[name=_csrf]").forEach(i => { i.value = t.token; });
  });
}
document.addEventListener("submit", e => {
  if (e.target.id !== "over-form") { return; }
  e.preventDefault();
  freshToken().then(() => {
    return fetch("/sign-in", {
      method: "POST",
      body: new URLSearchParams(new FormData(e.target)),
      headers: { "X-Requested-With": "fetch", "X-CSRF-TOKEN": csrfToken() }
    });
  }).then(answer => {
    byId("over-wrong").hidden = answer.ok;
    if (!answer.ok) { return; }
    return freshToken().then(() => {
      const veil = byId("over");
      veil.hidden = true;
      e.target.elements.password.value = "";
      waiting = null;
      if (writtenIn && writtenIn.isConnected) { writtenIn.focus(); }
      veil.go();
      document.dispatchEvent(new CustomEvent("rafter:signed-in"));
    });
  });
});
