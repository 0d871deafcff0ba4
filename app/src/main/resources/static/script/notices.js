// The bell, and notices that the browser shows.
import { byId } from "./page.js";
import { ask } from "./server.js";
import { toast } from "./messages.js";

export function bell(fresh) {
  ask("/notices/unread").then(a => a.ok ? a.text() : "0").then(n => {
    const mark = byId("unread");
    mark.hidden = n === "0";
    mark.textContent = n;
    byId("bell").setAttribute("aria-label", n === "0" ? "Notices" : n + " unread notices");
    if (fresh && n !== "0") { toast("A notice for you: see the bell."); byBrowser(); }
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
