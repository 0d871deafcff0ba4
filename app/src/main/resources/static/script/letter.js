// A letter to somebody outside: kept on the server while it is typed, with files that are attached or dropped.
import { attaching } from "./ticket/attaching.js";
import { Draft } from "./ticket/draft.js";

const FIELDS = ["html", "to", "subject", "thread"];

function begin(form) {
  const value = name => form.elements[name] ? form.elements[name].value : "";
  const draft = new Draft({
    form,
    url: form.dataset.draft,
    fields: () => {
      const written = Object.fromEntries(FIELDS.map(name => [name, value(name)]));
      return { ...written, thread: written.thread || "0" };
    }
  });
  form.addEventListener("input", e => { if (FIELDS.includes(e.target.name)) { draft.changed(); } });
  // What is still being saved would come after the letter and be a draft again.
  form.addEventListener("submit", e => {
    clearTimeout(draft.timer);
    if (!draft.under) { return; }
    e.preventDefault();
    e.stopPropagation();
    const by = e.submitter;
    draft.busy.then(() => { form.requestSubmit(by); });
  });
  attaching(form, draft);
}
const beginIn = place => { place.querySelectorAll("#letter").forEach(begin); };
document.addEventListener("DOMContentLoaded", () => { beginIn(document); });
document.addEventListener("rafter:shown", e => { beginIn(e.target); });
