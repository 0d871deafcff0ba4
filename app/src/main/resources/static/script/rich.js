// Makes a formatted text of each field that is one; without scripts it is plain.
function richen(text) {
  const box = document.createElement("div");
  box.className = "rich form-control";
  text.after(box);
  const quill = new Quill(box, {
    formats: ["bold", "italic", "underline", "strike", "link", "list", "blockquote", "code-block"],
    modules: { keyboard: { bindings: { tab: null, indent: null, outdent: null } } }
  });
  quill.root.setAttribute("role", "textbox");
  quill.root.setAttribute("aria-multiline", "true");
  quill.root.setAttribute("aria-labelledby", text.getAttribute("aria-labelledby"));
  quill.setContents(quill.clipboard.convert({ html: text.value }), "silent");
  text.hidden = true;
  const write = () => { text.value = quill.getText().trim() ? quill.getSemanticHTML().replace(/&nbsp;/g, " ") : ""; };
  quill.on("text-change", () => {
    write();
    text.dispatchEvent(new Event("input", { bubbles: true }));
  });
  text.form.querySelectorAll("[data-format]").forEach(b => {
    b.addEventListener("click", () => {
      const now = quill.getFormat()[b.dataset.format];
      quill.focus();
      quill.format(b.dataset.format, b.dataset.value ? (now === b.dataset.value ? false : b.dataset.value) : !now, "user");
    });
  });
}
const richenIn = place => { place.querySelectorAll("textarea[data-rich]").forEach(richen); };
document.addEventListener("DOMContentLoaded", () => { richenIn(document); });
document.addEventListener("rafter:shown", e => { richenIn(e.target); });
