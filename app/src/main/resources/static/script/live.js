// Live changes.
import { byId } from "./page.js";
import { bell } from "./notices.js";

let source = null;
// The news that the page knows of, as long as nothing was lost.
let heard = document.querySelector("meta[name=heard]")?.content ?? "";
function tell(what, detail) { document.dispatchEvent(new CustomEvent("rafter:" + what, { detail })); }
export function listen() {
  if (source) { source.close(); }
  source = new EventSource("/live?since=" + heard);
  const on = (topic, act) => { source.addEventListener(topic, act); };
  on("hello", e => {
    byId("live-lost").classList.remove("on");
    // What happened while the page was made comes now; what happened while the connection was lost may never.
    if (e.data === "missed" || !heard) { tell("all"); }
    heard = "";
  });
  ["ticket", "writing", "talk", "call", "posts"].forEach(topic => { on(topic, e => { tell(topic, Number(e.data)); }); });
  ["offer", "room", "floor", "all"].forEach(topic => { on(topic, () => { tell(topic); }); });
  on("notice", e => { if (e.data === document.querySelector("meta[name=me]").content) { bell(); } });
  source.onerror = () => {
    byId("live-lost").classList.add("on");
    if (source.readyState === EventSource.CLOSED) { setTimeout(listen, 4000); }
  };
}
addEventListener("pagehide", () => { if (source) { source.close(); } });
