// A student's photograph: looked at before it goes, then sent in pieces that survive a lost link.
// Without this file the form sends it whole. Uses finder.js,
// offline.js's `keepPhotograph`, upload.js's `post` and `reason`.
"use strict";

const PIECE_BYTES = 128 * 1024;
const PAUSES_MS = [500, 1000, 2000, 4000, 8000, 8000, 8000]; // between tries of one piece

const wait = (ms) => new Promise((done) => setTimeout(done, ms));

class OwnPhoto {
  constructor(form) {
    this.form = form;
    this.token = form.csrf_token.value;
    this.words = form.querySelector("#look");
    this.sending = form.querySelector("#sending");
    this.bar = form.querySelector("#progress");
    this.button = form.querySelector("#send");
    form.photo.addEventListener("change", () => this.look());
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.send();
    });
  }

  say(list, words) {
    list.replaceChildren(...words.map((sentence) => {
      const line = document.createElement("p");
      line.className = "notice";
      line.textContent = sentence;
      return line;
    }));
  }

  async look() {
    const [file] = this.form.photo.files;
    if (!file) return;
    this.say(this.words, [gettext("Looking at it …")]);
    try {
      const seen = await lookAt(await smallCopy(file), this.form.dataset.look, this.token);
      this.say(this.words, seen.words.length ? [...seen.words, gettext("Take it again, or hand it in all the same.")] : [gettext("It looks good: hand it in.")]);
    } catch {
      // A kind of picture this browser can't open, or no link just now: it is looked at when it arrives.
      this.say(this.words, []);
    }
  }

  async send() {
    const [file] = this.form.photo.files;
    this.button.disabled = true;
    if (!navigator.onLine && (await this.kept(file))) return;
    this.bar.hidden = false;
    try {
      location.assign(await this.pieces(file));
    } catch (wrong) {
      if (!navigator.onLine && (await this.kept(file))) return;
      this.sending.textContent = `${wrong.message} ${gettext("Press the button to go on where it stopped.")}`;
      this.button.disabled = false;
    }
  }

  // Keeps the photograph on the student's own device until the link is back.
  async kept(file) {
    if (!(await keepPhotograph({ url: this.form.action, of: this.form.of.value, file }))) return false;
    this.sending.textContent = "";
    this.bar.hidden = true;
    return true;
  }

  // The name under which this very file is remembered, so that it goes on after the page was closed.
  key(file) {
    return `noema ${this.form.dataset.begin} ${file.name} ${file.size} ${file.lastModified}`;
  }

  async begun(file) {
    const known = localStorage.getItem(this.key(file));
    if (known) {
      const answer = await this.patiently(() => fetch(this.form.dataset.uploads + known));
      if (answer.ok) return { upload: known, ...(await answer.json()) };
    }
    const body = new FormData();
    body.append("size", file.size);
    body.append("name", file.name);
    body.append("of", this.form.of.value);
    const fresh = await post(this.form.dataset.begin, body, this.token);
    localStorage.setItem(this.key(file), fresh.upload);
    return fresh;
  }

  async pieces(file) {
    let state = await this.begun(file);
    const url = this.form.dataset.uploads + state.upload;
    while (!state.done) {
      this.show(state.from, file.size);
      const piece = file.slice(state.from, state.from + PIECE_BYTES);
      const answer = await this.patiently(() => this.piece(`${url}?from=${state.from}`, piece));
      if (answer.status === 409) state = await (await fetch(url)).json();
      else if (!answer.ok) {
        localStorage.removeItem(this.key(file));
        throw new Error(await reason(answer));
      } else state = await answer.json();
    }
    localStorage.removeItem(this.key(file));
    this.show(file.size, file.size);
    return state.done;
  }

  piece(url, body) {
    const headers = { "X-CSRFToken": this.token, "HX-Request": "true", "Content-Type": "application/octet-stream" };
    return fetch(url, { method: "POST", body, headers });
  }

  async patiently(ask) {
    for (const pause of PAUSES_MS) {
      try {
        return await ask();
      } catch {
        this.sending.textContent = gettext("The link is gone; trying again …");
        await wait(pause);
      }
    }
    throw new Error(gettext("The link is gone."));
  }

  show(sent, size) {
    const share = Math.round((100 * sent) / size);
    this.bar.value = share;
    this.sending.textContent = `${share} of 100 sent`;
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const form = document.getElementById("own-photo");
  if (!form) return;
  const own = new OwnPhoto(form);
  const section = document.getElementById("camera");
  let place;
  const keep = async (still) => {
    const name = `camera-${new Date().toISOString()}.jpg`;
    const there = await own.pieces(new File([still], name, { type: "image/jpeg" }));
    place ??= there; // the first stands for all of them
    return [gettext("Taken and kept.")];
  };
  const finder = new Finder(section, keep, () => location.assign(place));
  section.querySelector("#begin").addEventListener("click", (event) => {
    event.target.hidden = true;
    finder.start();
  });
});
