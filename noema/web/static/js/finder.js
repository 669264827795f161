// What the device's camera sees, with hints while one aims. Where light lies on the paint, another
// picture is taken by itself once the sheet has been turned. Uses upload.js's `post` and `seenAt`.
"use strict";

const LOOK_PX = 1000; // of the longer side of what is sent to be looked at
const PAUSE_MS = 400;
const MOST_OF_SHEET = 3; // pictures of one sheet that are taken in a row
const TURNED_DEGREES = 30;
const STILL = 0.02; // of the picture's side: how far a corner may move between two looks

function drawn(source, width, height, longest) {
  const scale = Math.min(1, longest / Math.max(width, height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(width * scale);
  canvas.height = Math.round(height * scale);
  canvas.getContext("2d").drawImage(source, 0, 0, canvas.width, canvas.height);
  return canvas;
}

function jpegOf(canvas, quality) {
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", quality));
}

// A picture small enough to be looked at in a moment.
async function smallCopy(file) {
  const whole = await createImageBitmap(file);
  return jpegOf(drawn(whole, whole.width, whole.height, LOOK_PX), 0.8);
}

// What is seen in a small picture: words, whether it is ready, whether another one would help.
async function lookAt(small, url, token) {
  const body = new FormData();
  body.append("look", small, "look.jpg");
  const { answer } = await post(url, body, token);
  return seenAt(answer);
}

class Finder {
  // `keep` sends one picture and gives what to say of it; `done` is called after a sheet's last one.
  constructor(section, keep, done) {
    this.section = section;
    this.keep = keep;
    this.done = done;
    this.token = section.querySelector("[name=csrf_token]").value;
    this.video = section.querySelector("video");
    this.words = section.querySelector("#aim-words");
    this.button = section.querySelector("#take");
    this.enough = section.querySelector("#enough");
    this.taken = section.querySelector("#taken");
    this.ofSheet = 0;
    this.before = [];
    this.button.addEventListener("click", () => this.take());
    this.enough.addEventListener("click", () => this.end());
  }

  async start() {
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: "environment", width: { ideal: 4096 }, height: { ideal: 3072 } },
      });
    } catch {
      this.say([gettext("The camera can't be used here: choose a picture below.")]);
      return;
    }
    this.video.srcObject = this.stream;
    await this.video.play();
    this.section.querySelector(".finder").hidden = false;
    this.button.hidden = false;
    this.button.disabled = false;
    this.say([gettext("Aim at the sheet.")]);
    this.look();
  }

  say(words) {
    const now = words.join("\n");
    if (this.said === now) return; // so that a screen reader says it once
    this.said = now;
    this.words.replaceChildren(...words.map((sentence) => {
      const line = document.createElement("li");
      line.textContent = sentence;
      return line;
    }));
  }

  async look() {
    if (document.visibilityState === "visible" && !this.sending) {
      try {
        const seen = await lookAt(await jpegOf(this.frame(LOOK_PX), 0.8), this.section.dataset.look, this.token);
        this.show(seen);
        if (this.turned(seen)) await this.take();
        this.before = seen.corners;
      } catch {
        this.say([gettext("No answer from Noema: take the photograph all the same, or try again in a moment.")]);
      }
    }
    setTimeout(() => this.look(), PAUSE_MS);
  }

  show(seen) {
    const points = seen.corners.map((corner) => corner.join(",")).join(" ");
    this.section.querySelectorAll("polygon").forEach((polygon) => polygon.setAttribute("points", points));
    this.section.classList.toggle("ready", seen.ready);
    if (this.turning) this.say([gettext("Light lies on the paint: turn the sheet a quarter and hold still. The next picture is taken by itself.")]);
    else this.say(seen.ready ? [gettext("Good: take it now.")] : seen.words);
  }

  // Whether the sheet lies otherwise than in the last picture, and has lain so for two looks.
  turned(seen) {
    if (!this.turning || this.sending || seen.corners.length !== 4 || this.before.length !== 4) return false;
    const moved = seen.corners.map(([x, y], n) => Math.hypot(x - this.before[n][0], y - this.before[n][1]));
    const apart = Math.abs(this.angle(seen.corners) - this.turning) % 360;
    return Math.max(...moved) < STILL && Math.min(apart, 360 - apart) > TURNED_DEGREES;
  }

  angle([[left, top], [right, bottom]]) {
    const across = (right - left) * this.video.videoWidth;
    return (Math.atan2((bottom - top) * this.video.videoHeight, across) * 180) / Math.PI;
  }

  frame(longest) {
    return drawn(this.video, this.video.videoWidth, this.video.videoHeight, longest);
  }

  async still() {
    const track = this.stream.getVideoTracks()[0];
    if (window.ImageCapture) {
      try {
        return await new ImageCapture(track).takePhoto();
      } catch { /* some cameras give only what the finder shows */ }
    }
    return jpegOf(this.frame(Infinity), 0.95);
  }

  async take() {
    this.sending = true;
    this.button.disabled = true;
    this.taken.textContent = gettext("Sending …");
    try {
      this.kept ??= await this.still(); // what couldn't be sent is sent again
      const said = await this.keep(this.kept);
      const seen = await this.seenIn(this.kept);
      this.kept = undefined;
      this.taken.replaceChildren(...said);
      this.goOn(seen);
    } catch (wrong) {
      this.taken.textContent = `${wrong.message} ${gettext("The picture is kept here: press the button to send it again.")}`;
    }
    this.button.disabled = false;
    this.sending = false;
  }

  async seenIn(still) {
    try {
      return await lookAt(await smallCopy(still), this.section.dataset.look, this.token);
    } catch {
      return undefined; // nobody could look: one picture is enough
    }
  }

  goOn(seen) {
    this.ofSheet += 1;
    const more = seen?.again && seen.corners.length === 4 && this.ofSheet < MOST_OF_SHEET;
    if (!more) {
      this.end();
      return;
    }
    this.turning = this.angle(seen.corners);
    this.enough.hidden = false;
  }

  end() {
    this.turning = undefined;
    this.ofSheet = 0;
    this.enough.hidden = true;
    this.done();
  }
}
