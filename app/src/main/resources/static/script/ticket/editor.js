// The editor of an answer or a note: its keys, its bar of formats, and the greeting and closing that stand there already.

/** An editor in this place; files that are pasted or dropped into the text go to `pictures`. */
export function editorIn(place, { name, words, pictures }) {
  const box = document.createElement("div");
  place.append(box);
  const quill = new Quill(box, {
    placeholder: words,
    formats: ["bold", "italic", "underline", "strike", "link", "list", "blockquote", "code-block", "image"],
    // Tab leads out of the text, as out of every other field.
    modules: {
      keyboard: { bindings: { tab: null, indent: null, outdent: null, "indent code-block": null, "outdent code-block": null } },
      uploader: { mimetypes: ["image/png", "image/jpeg", "image/gif", "image/webp"], handler: pictures }
    }
  });
  quill.root.setAttribute("aria-label", name);
  quill.root.setAttribute("role", "textbox");
  quill.root.setAttribute("aria-multiline", "true");
  return quill;
}

/** The buttons of a form that set formats, and show those of the place where the caret is. */
export function formatBar(form, quill) {
  const buttons = form.querySelectorAll("[data-format]");
  const isOn = (button, now) => {
    const { format, value } = button.dataset;
    return value ? now[format] === value : !!now[format];
  };
  buttons.forEach(button => {
    button.addEventListener("click", () => {
      const on = isOn(button, quill.getFormat());
      quill.focus();
      quill.format(button.dataset.format, on ? false : button.dataset.value || true, "user");
    });
  });
  quill.on("editor-change", () => {
    if (!quill.hasFocus() || !quill.getSelection()) { return; }
    const now = quill.getFormat();
    buttons.forEach(button => { button.classList.toggle("on", isOn(button, now)); });
  });
}

/**
 * A reply that is begun has its greeting and closing. The caret is led between them once the browser has put it where it
 * wants it, and at the latest before the first key is written.
 */
export function greet(quill, greeting, closing) {
  const frame = (greeting + "\n\n" + closing).trim();
  const bare = () => quill.getText().trim();
  let fresh = false;
  const lead = () => {
    if (!fresh) { return; }
    fresh = false;
    quill.setSelection(greeting ? greeting.length + 1 : 0, 0, "silent");
  };
  quill.root.addEventListener("focus", () => {
    if (bare() !== "" || quill.root.querySelector("img")) { return; }
    quill.setContents([{ insert: frame + "\n" }], "silent");
    fresh = true;
    setTimeout(lead);
  });
  ["keydown", "beforeinput"].forEach(kind => { quill.root.addEventListener(kind, lead, true); });
  quill.root.addEventListener("blur", () => {
    fresh = false;
    if (bare() === frame) { quill.setContents([], "silent"); }
  });
  return frame;
}
