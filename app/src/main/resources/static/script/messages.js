// Short messages, with an undo, and what is said to those who hear the page.
import { byId } from "./page.js";
import { ask, formOf } from "./server.js";

let saying = null;
// Says something to those who hear the page: what is chosen, what arrived, how a sentence reads now.
export function announce(words) {
  clearTimeout(saying);
  saying = setTimeout(() => { byId("said").textContent = words; }, 250);
}

/** What an answer that is a page says in words. */
export function wordsOf(html) { return new DOMParser().parseFromString(html, "text/html").body.textContent.trim(); }
export function toast(words, undo, bad) {
  const line = document.createElement("div");
  line.className = "toast-line" + (bad ? " bad" : "");
  const text = document.createElement("span");
  text.textContent = words;
  line.append(text);
  if (undo && undo.action) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = "Undo";
    button.addEventListener("click", () => {
      line.remove();
      ask(undo.action, { method: "POST", body: formOf(undo.fields), headers: { "HX-Request": "true" } }).then(a => {
        if (a.ok) { toast("Taken back."); return; }
        a.text().then(t => { toast(wordsOf(t), null, true); });
      });
    });
    line.append(button);
  }
  byId("toasts").append(line);
  setTimeout(() => { line.remove(); }, undo && undo.action ? 14000 : bad ? 9000 : 5000);
}
