// The bell, and notices that the browser shows.
import { byId } from "./page.js";
import { ask } from "./server.js";
import { toast } from "./messages.js";

function show(unread) {
  const mark = byId("unread");
  mark.hidden = unread === 0;
  mark.textContent = unread;
  byId("bell").setAttribute("aria-label", unread === 0 ? "Notices" : unread + " unread notices");
}
document.addEventListener("rafter:waits", e => { show(e.detail.notices); });
/** There is a new notice. */
export function bell() {
  ask("/notices/unread").then(a => a.ok ? a.json() : 0).then(unread => {
    show(unread);
    if (unread > 0) { toast("A notice for you: see the bell."); byBrowser(); }
  });
}

// Only where the person chose it, and the browser was given leave.
function byBrowser() {
  if (!("Notification" in window) || Notification.permission !== "granted") { return; }
  ask("/notices/browser").then(a => a.json()).then(one => {
    if (!one.words) { return; }
    const shown = new Notification("Rafter, " + one.ticket, { body: one.words, tag: "rafter-" + one.ticket });
    shown.onclick = () => { window.focus(); location.href = "/tickets/" + one.ticket; };
  });
}
document.addEventListener("change", e => {
  const wanted = e.target.hasAttribute("data-browser-notice") && e.target.checked;
  if (wanted && "Notification" in window && Notification.permission === "default") {
    Notification.requestPermission();
  }
});
