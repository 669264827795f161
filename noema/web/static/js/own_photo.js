// A student's photograph: looked at before it goes, then sent in pieces that survive a lost link.
// Without this file the form sends it whole. Uses upload.js's `post` and `seenAt`.
"use strict";

const LOOK_SIDE_PX = 1000;
const PIECE_BYTES = 128 * 1024;
const PAUSES_MS = [500, 1000, 2000, 4000, 8000, 8000, 8000]; // between tries of one piece

const wait = (ms) => new Promise((done) => setTimeout(done, ms));

async function smallCopy(file) {
  const whole = await createImageBitmap(file);
  const scale = Math.min(1, LOOK_SIDE_PX / Math.max(whole.width, whole.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(whole.width * scale);
  canvas.height = Math.round(whole.height * scale);
  canvas.getContext("2d").drawImage(whole, 0, 0, canvas.width, canvas.height);
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.8));
}

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
      const body = new FormData();
      body.append("look", await smallCopy(file), "look.jpg");
      const { answer } = await post(this.form.dataset.look, body, this.token);
      const seen = await seenAt(answer);
      this.say(this.words, seen.words.length ? [...seen.words, gettext("Take it again, or hand it in all the same.")] : [gettext("It looks good: hand it in.")]);
    } catch {
      // A kind of picture this browser can't open, or no link just now: it is looked at when it arrives.
      this.say(this.words, []);
    }
  }

  async send() {
    const [file] = this.form.photo.files;
    this.button.disabled = true;
    this.bar.hidden = false;
    try {
      location.assign(await this.pieces(file));
    } catch (wrong) {
      this.sending.textContent = `${wrong.message} ${gettext("Press the button to go on where it stopped.")}`;
      this.button.disabled = false;
    }
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
        throw new Error(await this.reason(answer));
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

  async reason(answer) {
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    return page.querySelector(".notice")?.textContent ?? gettext("It could not be sent.");
  }

  show(sent, size) {
    const share = Math.round((100 * sent) / size);
    this.bar.value = share;
    this.sending.textContent = `${share} of 100 sent`;
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const form = document.getElementById("own-photo");
  if (form) new OwnPhoto(form);
});
