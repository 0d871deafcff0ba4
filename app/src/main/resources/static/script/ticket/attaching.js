// Files of a draft: attached by a button, or dropped onto its form.
import { toast } from "../messages.js";

const LARGEST = 25000000;

function attach(form, draft, files) {
  Array.from(files).forEach(file => {
    if (file.size > LARGEST) {
      const words = "“" + file.name + "” is larger than 25 MB and was not attached. Your text is saved; send a link instead.";
      toast(words, null, true);
      return;
    }
    draft.send({
      to: "/files",
      file,
      begun: "Attaching " + file.name + " …",
      failed: file.name + " was not attached",
      arrived: async answer => {
        const place = form.querySelector("[data-files]");
        place.innerHTML = await answer.text();
        htmx.process(place);
        draft.say(file.name + " is attached");
      }
    });
  });
}

/** By a way that takes no files, one that is dropped does not take the page away all the same. */
export function attaching(form, draft) {
  const input = form.querySelector("input[type=file]");
  form.addEventListener("dragover", e => { e.preventDefault(); });
  form.addEventListener("drop", e => {
    if (!input) { e.preventDefault(); return; }
    if (e.dataTransfer.files.length && !e.defaultPrevented) { e.preventDefault(); attach(form, draft, e.dataTransfer.files); }
  });
  if (!input) { return; }
  const button = form.querySelector("[data-attach]");
  button.hidden = false;
  button.addEventListener("click", () => { input.click(); });
  input.addEventListener("change", () => { attach(form, draft, input.files); input.value = ""; });
}
