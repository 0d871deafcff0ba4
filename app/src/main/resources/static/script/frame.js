// What every page does.
import { byId } from "./page.js";
import { csrfToken, signInAgain } from "./server.js";
import { toast, wordsOf } from "./messages.js";
import { closeMenu } from "./menus.js";
import { showKeys, showPalette, switchTheme } from "./palette.js";
import "./notices.js";
import { listen } from "./live.js";
import "./reshaping.js";
import "./fields.js";
import "./offers.js";

document.addEventListener("htmx:configRequest", e => {
  e.detail.headers["X-CSRF-TOKEN"] = csrfToken();
  // A part of this page that is asked for anew leaves what the page is to say once to whoever loads it.
  if (e.detail.verb === "get" && e.detail.path.split("?")[0] === location.pathname) { e.detail.headers["X-Anew"] = "true"; }
});
document.addEventListener("htmx:responseError", e => {
  if (e.detail.xhr.status === 401) { signInAgain(); return; }
  const words = wordsOf(e.detail.xhr.responseText);
  toast(words.slice(0, 300) || "That did not work. Nothing was changed.", null, true);
  // Where something was typed it stays, to be mended.
  if (!byId("menu").querySelector("input:not([type=hidden]), textarea")) { closeMenu(); }
});
function away() { toast("Rafter does not answer. Nothing was changed; try again in a moment.", null, true); }
document.addEventListener("htmx:sendError", away);
// What a page asks by itself it asks again when the stream of news is back; only of what somebody did it is said that no answer came.
window.addEventListener("unhandledrejection", e => {
  if (!e.reason || !e.reason.away) { return; }
  e.preventDefault();
  if (e.reason.changes) { away(); }
});

document.addEventListener("done", e => { closeMenu(); toast(e.detail.words, e.detail); });
document.addEventListener("rafter:signed-in", listen);
document.addEventListener("DOMContentLoaded", () => {
  if (!document.querySelector("header.top")) { return; }
  byId("open-palette").addEventListener("click", showPalette);
  byId("open-keys").addEventListener("click", showKeys);
  byId("switch-theme").addEventListener("click", switchTheme);
  document.querySelectorAll("input[name=back]:not([value])").forEach(i => { i.value = location.pathname + location.search; });
  listen();
});
