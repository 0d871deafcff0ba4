// A letter to somebody outside: kept on the server while it is typed, with files that are attached or dropped.
import { toast, wordsOf } from "./messages.js";
import { ask, formOf } from "./server.js";

const MOST = 25000000;

function begin(form) {
  const url = form.dataset.draft, words = form.querySelector(".kept"), input = form.querySelector("input[type=file]");
  let version = Number(form.dataset.version), timer = null, busy = Promise.resolve(), under = 0;
  const say = text => { words.textContent = text; };
  const value = name => form.elements[name] ? form.elements[name].value : "";
  const save = () => {
    clearTimeout(timer);
    under++;
    busy = busy.then(() => {
      const body = { html: value("html"), to: value("to"), subject: value("subject"), thread: value("thread") || "0", version };
      return ask(url, { method: "POST", body: formOf(body) }).then(a => {
        if (a.ok) {
          return a.json().then(kept => {
            version = kept.version;
            say("Draft saved " + kept.at);
          });
        }
        if (a.status === 409) {
          return a.json().then(there => {
            version = there.version;
            say("Changed on another device since. Load the page again to see that, or type on to keep this.");
          });
        }
        return a.text().then(t => { say(wordsOf(t) || "Not saved yet"); });
      }).catch(() => { say("Rafter does not answer; the draft is not saved yet."); });
    }).finally(() => { under--; });
  };
  const upload = files => {
    files.forEach(file => {
      if (file.size > MOST) {
        toast("“" + file.name + "” is larger than 25 MB and was not attached. Your text is saved; send a link instead.", null, true);
        return;
      }
      say("Attaching " + file.name + " …");
      under++;
      busy = busy.then(() => {
        const body = new FormData();
        body.append("file", file);
        return ask(url + "/files", { method: "POST", body }).then(a => a.text().then(html => {
          if (!a.ok) {
            say("");
            toast(wordsOf(html), null, true);
            return;
          }
          const place = form.querySelector("[data-files]");
          place.innerHTML = html;
          htmx.process(place);
          version = Math.max(version, 1);
          say(file.name + " is attached");
        })).catch(() => { say("Rafter does not answer; " + file.name + " was not attached"); });
      }).finally(() => { under--; });
    });
  };
  form.addEventListener("input", e => {
    if (!["to", "subject", "html"].includes(e.target.name)) { return; }
    clearTimeout(timer);
    timer = setTimeout(save, 700);
  });
  // What is still being saved would come after the letter and be a draft again.
  form.addEventListener("submit", e => {
    clearTimeout(timer);
    if (!under) { return; }
    e.preventDefault();
    e.stopPropagation();
    const by = e.submitter;
    busy.then(() => { form.requestSubmit(by); });
  });
  const attach = form.querySelector("[data-attach]");
  attach.hidden = false;
  attach.addEventListener("click", () => { input.click(); });
  input.addEventListener("change", () => {
    upload(Array.from(input.files));
    input.value = "";
  });
  form.addEventListener("dragover", e => { e.preventDefault(); });
  form.addEventListener("drop", e => {
    if (e.dataTransfer.files.length && !e.defaultPrevented) {
      e.preventDefault();
      upload(Array.from(e.dataTransfer.files));
    }
  });
}
const beginIn = place => { place.querySelectorAll("#letter").forEach(begin); };
document.addEventListener("DOMContentLoaded", () => { beginIn(document); });
document.addEventListener("rafter:shown", e => { beginIn(e.target); });
