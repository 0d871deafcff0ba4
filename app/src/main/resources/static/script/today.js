// Today stays fresh.
import { byId } from "./page.js";
import { askAnew } from "./server.js";

let renewing = null;
function renewToday() {
  if (!byId("today") || renewing) { return; }
  renewing = setTimeout(() => {
    askAnew("/today").then(a => a.text()).then(html => {
      renewing = null;
      const fresh = new DOMParser().parseFromString(html, "text/html").getElementById("today"), here = byId("today");
      // Whoever stands on a line of it is not moved; it is renewed once they go on.
      if (!fresh || !here || here.contains(document.activeElement)) { return; }
      here.replaceChildren.apply(here, Array.from(fresh.childNodes));
    }).catch(() => { renewing = null; });
  }, 3000);
}
["rafter:ticket", "rafter:all"].forEach(news => { document.addEventListener(news, renewToday); });
setInterval(() => { if (!document.hidden) { renewToday(); } }, 60000);
