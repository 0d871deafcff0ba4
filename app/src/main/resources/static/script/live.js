// Live changes.
import { byId } from "./page.js";
import { bell } from "./notices.js";

let source = null;
export function listen() {
  if (source) { source.close(); }
  source = new EventSource("/live");
  source.addEventListener("hello", () => {
    byId("live-lost").classList.remove("on");
    // Something may have happened between the making of the page, or the loss of the connection, and now.
    document.dispatchEvent(new CustomEvent("rafter:all"));
  });
  ["ticket", "writing", "talk", "call", "posts"].forEach(topic => {
    source.addEventListener(topic, e => {
      document.dispatchEvent(new CustomEvent("rafter:" + topic, { detail: Number(e.data) }));
    });
  });
  source.addEventListener("offer", () => { document.dispatchEvent(new CustomEvent("rafter:offer")); });
  source.addEventListener("room", () => { document.dispatchEvent(new CustomEvent("rafter:room")); });
  source.addEventListener("floor", () => { document.dispatchEvent(new CustomEvent("rafter:floor")); });
  source.addEventListener("notice", e => { if (e.data === document.querySelector("meta[name=me]").content) { bell(true); } });
  source.onerror = () => {
    byId("live-lost").classList.add("on");
    if (source.readyState === EventSource.CLOSED) { setTimeout(listen, 4000); }
  };
}
addEventListener("pagehide", () => { if (source) { source.close(); } });
