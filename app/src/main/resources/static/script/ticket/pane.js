// One of the two panes of the composer: the reply or the note.
import { fillBlanks, offerPhrases } from "../phrases.js";
import { attaching } from "./attaching.js";
import { Draft } from "./draft.js";
import { editorIn, formatBar, greet } from "./editor.js";

const ADDRESSES = ["to", "cc", "bcc"];

export class Pane {
  constructor(form, { number, me }) {
    this.form = form;
    this.kind = form.dataset.kind;
    this.place = form.querySelector(".editor");
    this.composer = document.getElementById("composer");
    const text = form.querySelector("textarea");
    this.place.hidden = false;
    text.hidden = true;
    form.elements.format.value = "html";
    const reply = this.kind === "reply";
    this.quill = editorIn(this.place, {
      name: reply ? "Reply" : "Note",
      words: reply ? "Write to the customer" : "Write to your colleagues",
      pictures: (range, files) => { files.forEach(file => { this.picture(range, file); }); }
    });
    this.draft = new Draft({
      form,
      url: "/tickets/" + number + "/drafts/" + this.kind,
      key: "draft-" + me + "-" + number + "-" + this.kind,
      fields: () => this.fields(),
      put: there => { this.set(there.html); this.address(there); this.counted(); }
    });
    this.set(text.value);
    this.draft.restore();
    this.quill.on("text-change", (delta, old, source) => { if (source === "user") { this.changed(); } });
    this.phrases = offerPhrases({
      quill: this.quill,
      place: this.place,
      number,
      changed: () => { this.changed(); },
      say: words => { this.draft.say(words); }
    });
    this.blanks();
    // Where there is nothing to say, the attribute is not there either.
    const { greeting = "", closing = "" } = this.composer.dataset;
    if (reply && (greeting || closing)) { this.frame = greet(this.quill, greeting, closing); }
    formatBar(form, this.quill);
    this.watch();
    attaching(form, this.draft);
  }

  blanks() {
    const gaps = this.form.querySelector(".gaps");
    const mark = words => { gaps.textContent = words; gaps.hidden = !words; };
    fillBlanks({ quill: this.quill, values: JSON.parse(this.composer.dataset.blanks || "{}"), mark });
  }

  watch() {
    const { form, place } = this;
    form.addEventListener("input", e => { if (ADDRESSES.includes(e.target.name)) { this.changed(); } });
    form.addEventListener("change", e => { if (e.target.name === "then") { this.changed(); } });
    form.addEventListener("click", e => {
      const whom = e.target.closest("[data-cc]");
      if (whom) { form.elements.cc.value = whom.dataset.cc; this.changed(); form.elements.cc.focus(); }
    });
    form.addEventListener("submit", e => { this.submit(e); });
    // It opens when the editor itself is entered, so that no button moves away under the pointer.
    place.addEventListener("focusin", () => { this.composer.classList.add("open"); });
    if (this.html() !== "") { this.composer.classList.add("open"); }
    place.addEventListener("keydown", e => {
      if ((e.ctrlKey || e.metaKey) && e.key === "Enter") { e.preventDefault(); form.requestSubmit(); }
    }, true);
  }

  /** As long as there is nothing between greeting and closing, it is empty. */
  html() {
    const text = this.quill.getText().trim();
    const empty = (text === "" || text === this.frame) && !this.place.querySelector("img");
    return empty ? "" : this.quill.getSemanticHTML().replace(/&nbsp;/g, " ");
  }

  set(html) { this.quill.setContents(this.quill.clipboard.convert({ html }), "silent"); }

  address(there) {
    const { elements } = this.form;
    ADDRESSES.forEach(name => { if (elements[name] && there[name]) { elements[name].value = there[name]; } });
  }

  fields() {
    const { elements } = this.form;
    const [to, cc, bcc] = ADDRESSES.map(name => elements[name] ? elements[name].value : "");
    return { html: this.html(), to, cc, bcc, then: elements.then ? elements.then.value : "CUSTOMER" };
  }

  focus() { this.quill.focus(); }

  changed() {
    this.counted();
    this.draft.changed();
  }

  counted() {
    const place = this.form.querySelector("[data-most]");
    if (!place) { return; }
    const left = Number(place.dataset.most) - Array.from(this.quill.getText().trim()).length;
    place.textContent = left < 0 ? -left + " letters too many" : left + " letters left";
  }

  async submit(e) {
    this.form.elements.html.value = this.html();
    if (this.ready) { this.draft.forget(); return; }
    e.preventDefault();
    if (this.html() === "") { this.draft.say("There are no words in it yet", true); this.focus(); return; }
    // Everything that is still on its way to the draft arrives first; this also notices a session that has ended.
    this.draft.dirty = true;
    await this.draft.save();
    if (this.draft.dirty) { return; }
    this.ready = true;
    this.form.requestSubmit();
  }

  /** What is not kept yet when the page is left. */
  leave() { if (this.draft.dirty && !this.ready) { this.draft.save(); } }

  /** A picture that is pasted or dropped into the text becomes a file of the draft, and the text refers to it. */
  picture(range, file) {
    this.draft.send({
      to: "/pictures",
      file,
      begun: "Adding a picture …",
      failed: "the picture was not added",
      arrived: async answer => {
        const there = await answer.json();
        this.quill.insertEmbed(range.index, "image", there.address, "user");
        this.quill.setSelection(range.index + 1, 0, "silent");
        this.draft.say("The picture is in the text");
      }
    });
  }
}
