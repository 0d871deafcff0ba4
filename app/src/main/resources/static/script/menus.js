// Small menus that a link opens, and what lies over the page.
import { byId, typing } from "./page.js";
import { ask } from "./server.js";

let opener = null, returnTo = null;
export function closeMenu(focus) {
  const menu = byId("menu");
  if (menu.hidden) { return; }
  menu.hidden = true;
  menu.replaceChildren();
  if (opener) {
    opener.setAttribute("aria-expanded", "false");
    if (focus) { (returnTo && returnTo.isConnected ? returnTo : opener).focus({ preventScroll: true }); }
  }
}
// A link to a small menu; in rows, of which there are many, each is only a link of its kind.
const MENU_LINKS = "[data-menu], .card-row a.pick";
document.addEventListener("focusin", e => {
  if (e.target.matches(".card-row a.pick")) { e.target.setAttribute("aria-haspopup", "dialog"); }
});
export function openMenu(link) {
  closeMenu();
  opener = link;
  returnTo = document.activeElement === document.body ? link : document.activeElement;
  ask(link.href, { headers: { "HX-Request": "true" } }).then(a => a.text()).then(html => {
    const menu = byId("menu");
    menu.innerHTML = html;
    htmx.process(menu);
    menu.hidden = false;
    link.setAttribute("aria-expanded", "true");
    const at = link.getBoundingClientRect();
    menu.style.left = Math.max(8, Math.min(at.left, innerWidth - menu.offsetWidth - 8)) + "px";
    const below = at.bottom + 4;
    const wanted = below + menu.offsetHeight > innerHeight ? at.top - menu.offsetHeight - 4 : below;
    // The link itself may have been pushed out of sight by what loaded meanwhile.
    menu.style.top = Math.max(8, Math.min(wanted, innerHeight - menu.offsetHeight - 8)) + "px";
    (menu.querySelector("[aria-checked=true]") || menu.querySelector("button, input:not([type=hidden]), a, textarea") || menu).focus();
  });
}
document.addEventListener("click", e => {
  const link = e.target.closest(MENU_LINKS);
  if (link && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
    e.preventDefault();
    if (link === opener && !byId("menu").hidden) { closeMenu(true); } else { openMenu(link); }
  } else if (!e.target.closest("#menu")) { closeMenu(); }
  document.querySelectorAll("details.person[open]").forEach(d => { if (!d.contains(e.target)) { d.open = false; } });
});

// What lies over the page: it takes the focus, and gives it back.
let before = null;
// The page beneath can be neither clicked nor reached until then.
export function cover(id, focus) {
  before = document.activeElement;
  byId("main").inert = true;
  byId(id).hidden = false;
  focus.focus();
}
export function uncover(id) {
  byId(id).hidden = true;
  byId("main").inert = false;
  if (before) { before.focus(); }
}
// What lies on top holds the Tab key: from its last stop on to its first, and back.
document.addEventListener("keydown", e => {
  const top = e.key !== "Tab" ? null : document.querySelector(".veil:not([hidden]) .over") || (byId("menu").hidden ? null : byId("menu"));
  if (!top) { return; }
  const all = top.querySelectorAll("a[href], button, input:not([type=hidden]), select, textarea, summary");
  const stops = Array.from(all).filter(one => {
    return one.offsetParent && !one.disabled && one.tabIndex >= 0;
  });
  if (!stops.length) { e.preventDefault(); return; }
  const i = stops.indexOf(document.activeElement);
  if (i < 0 || (e.shiftKey ? i === 0 : i === stops.length - 1)) { e.preventDefault(); stops[e.shiftKey ? stops.length - 1 : 0].focus(); }
});
document.addEventListener("click", e => {
  const closing = e.target.closest("[data-close]");
  if (closing) { uncover(closing.dataset.close); }
  if (e.target.classList.contains("veil") && e.target.id !== "over") { uncover(e.target.id); }
});

/** Whether a key is nobody's: nothing is typed in, and nothing lies over the page. */
export function keysFree(e) {
  return !e.ctrlKey && !e.metaKey && !e.altKey && !typing(e.target)
    && byId("menu").hidden && !document.querySelector(".veil:not([hidden])");
}
