// What is written and not sent: kept on the server while typing, and in the browser until the server has it.
import { toast, wordsOf } from "../messages.js";
import { ask, formOf } from "../server.js";

export class Draft {
  /**
   * @param key    under which the browser keeps it; none: it is on the server alone
   * @param fields what is written now
   * @param put    puts other words in its place; none: who wants them loads the page again
   */
  constructor({ form, url, key, fields, put }) {
    Object.assign(this, { url, key, fields, put });
    this.version = Number(form.dataset.version);
    this.words = form.querySelector(".kept");
    this.busy = Promise.resolve();
    this.under = 0;
    this.dirty = false;
  }

  say(words, bad) {
    this.words.textContent = words;
    this.words.classList.toggle("bad", !!bad);
  }

  /** What could not be kept on the server is kept in the browser until it can. */
  restore() {
    const kept = localStorage.getItem(this.key);
    if (!kept) { return; }
    localStorage.removeItem(this.key);
    const there = JSON.parse(kept);
    if (there.html && there.html !== this.fields().html) {
      this.put(there);
      this.changed();
    }
  }

  changed() {
    this.dirty = true;
    if (this.key) { localStorage.setItem(this.key, JSON.stringify(this.fields())); }
    clearTimeout(this.timer);
    this.timer = setTimeout(() => { this.save(); }, 700);
  }

  forget() { if (this.key) { localStorage.removeItem(this.key); } }

  /** Does one after the other; `under` says how many are on their way. */
  queue(work) {
    this.under++;
    this.busy = this.busy.then(work).finally(() => { this.under--; });
    return this.busy;
  }

  save() {
    clearTimeout(this.timer);
    return this.queue(() => { return this.dirty ? this.bring() : null; });
  }

  async bring() {
    this.dirty = false;
    try {
      const answer = await ask(this.url, { method: "POST", body: formOf({ ...this.fields(), version: this.version }) });
      if (answer.ok) {
        this.kept(await answer.json());
      } else if (answer.status === 409) {
        this.changedElsewhere(await answer.json());
      } else {
        this.dirty = true;
        this.say(wordsOf(await answer.text()) || "Not saved yet", true);
      }
    } catch (e) {
      this.dirty = true;
      this.say("Rafter does not answer; your text is " + (this.key ? "saved in this browser" : "not saved yet"), true);
      this.timer = setTimeout(() => { this.save(); }, 5000);
    }
  }

  kept(there) {
    this.version = there.version;
    if (!this.dirty) { this.forget(); }
    this.say("Draft saved " + there.at);
  }

  changedElsewhere(there) {
    if (!this.put) {
      this.version = there.version;
      this.say("Changed on another device since. Load the page again to see that, or type on to keep this.");
      return;
    }
    const take = () => {
      this.put(there);
      this.version = there.version;
      this.forget();
      this.say("Using that one");
    };
    const keep = () => {
      this.version = there.version;
      this.dirty = true;
      this.save();
    };
    this.words.replaceChildren("Changed on another device. ", choice("Use that", take), choice("Keep this", keep));
  }

  /** A file on its way to the draft, after whatever is on its way already; `arrived` has what the server answers. */
  send({ to, file, begun, arrived, failed }) {
    this.say(begun);
    this.queue(async () => {
      const body = new FormData();
      body.append("file", file);
      try {
        const answer = await ask(this.url + to, { method: "POST", body });
        if (!answer.ok) {
          this.say("");
          toast(wordsOf(await answer.text()), null, true);
          return;
        }
        await arrived(answer);
        // A file makes a draft where there was none.
        if (this.version === 0) { this.version = 1; }
      } catch (e) {
        this.say("Rafter does not answer; " + failed, true);
      }
    });
  }
}

function choice(words, act) {
  const button = document.createElement("button");
  button.type = "button";
  button.className = "btn small ms-1";
  button.textContent = words;
  button.addEventListener("click", act);
  return button;
}
