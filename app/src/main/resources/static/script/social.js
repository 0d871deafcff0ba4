// Posts: the list is drawn anew when something comes, unless somebody is writing; how many letters are left is counted.
import { byId, drawAnew } from "./page.js";
import { askAnew } from "./server.js";

const GATHERED = 1500;
let timer = null;

function count(form) {
  const text = form.querySelector("textarea[name=text]"), left = form.querySelector("[data-left]");
  const secret = form.querySelector("[name=publicly][value=false]");
  const most = Number(secret && secret.checked ? text.dataset.private : text.dataset.public);
  const over = Array.from(text.value.trim()).length - most;
  left.textContent = over > 0 ? over + " too many" : -over + " left";
}
function begin() { document.querySelectorAll("form:has(textarea[data-public])").forEach(count); }
["input", "change"].forEach(what => {
  document.addEventListener(what, e => {
    const form = e.target.closest("form");
    if (form && form.querySelector("textarea[data-public]")) { count(form); }
    if (e.target.matches("[data-all]")) {
      document.querySelectorAll("[name=post]").forEach(one => { one.checked = e.target.checked; });
    }
  });
});
function busy() {
  const text = document.querySelector(".social textarea[name=text]");
  const open = document.querySelector(".social details[open], .social form:focus-within");
  return (text && text.value.trim()) || open;
}
function refresh() {
  timer = null;
  if (document.hidden || busy()) { return; }
  askAnew(location.pathname + location.search).then(a => a.ok ? a.text() : null).then(html => {
    const fresh = html && new DOMParser().parseFromString(html, "text/html").getElementById("social");
    if (!fresh || busy()) { return; }
    // What is looked at stays where it is; only the list and the counts follow.
    [".social-left", ".social-list"].forEach(part => {
      const here = byId("social").querySelector(part), there = fresh.querySelector(part);
      if (here.innerHTML !== there.innerHTML) { drawAnew(() => { here.innerHTML = there.innerHTML; }); }
    });
    begin();
  }).catch(() => {});
}
function soon() { if (byId("social") && !timer) { timer = setTimeout(refresh, GATHERED); } }
["rafter:posts", "rafter:all"].forEach(news => { document.addEventListener(news, soon); });
begin();
