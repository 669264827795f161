// The device's camera with hints while one aims. Without this file, or a camera, one chooses a file.
// Uses upload.js's `post` and `seenAt`.
"use strict";

const LOOK_PX = 1000; // of the longer side of what is sent to be looked at
const PAUSE_MS = 400;

function drawn(video, longest) {
  const scale = Math.min(1, longest / Math.max(video.videoWidth, video.videoHeight));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(video.videoWidth * scale);
  canvas.height = Math.round(video.videoHeight * scale);
  canvas.getContext("2d").drawImage(video, 0, 0, canvas.width, canvas.height);
  return canvas;
}

function jpegOf(canvas, quality) {
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", quality));
}

class Camera {
  constructor(section) {
    this.section = section;
    this.token = section.querySelector("[name=csrf_token]").value;
    this.video = section.querySelector("video");
    this.words = section.querySelector("#aim-words");
    this.button = section.querySelector("#take");
    this.taken = section.querySelector("#taken");
    this.count = 0;
    this.button.addEventListener("click", () => this.take());
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
        const seen = await this.ask();
        this.section.classList.toggle("ready", seen.ready);
        this.say(seen.ready ? [gettext("Good: take it now.")] : seen.words);
        const points = seen.corners.map((corner) => corner.join(",")).join(" ");
        this.section.querySelectorAll("polygon").forEach((polygon) => polygon.setAttribute("points", points));
      } catch {
        this.say([gettext("No answer from Noema: take the photograph all the same, or try again in a moment.")]);
      }
    }
    setTimeout(() => this.look(), PAUSE_MS);
  }

  async ask() {
    const body = new FormData();
    body.append("look", await jpegOf(drawn(this.video, LOOK_PX), 0.8), "look.jpg");
    const answer = await fetch(this.section.dataset.look, { method: "POST", body, headers: { "X-CSRFToken": this.token } });
    if (!answer.ok) throw new Error("no answer");
    return seenAt((await answer.json()).answer);
  }

  async still() {
    const track = this.stream.getVideoTracks()[0];
    if (window.ImageCapture) {
      try {
        return await new ImageCapture(track).takePhoto();
      } catch { /* some cameras give only what the finder shows */ }
    }
    return jpegOf(drawn(this.video, Infinity), 0.95);
  }

  async take() {
    this.sending = true;
    this.button.disabled = true;
    this.taken.textContent = gettext("Sending …");
    try {
      this.kept ??= await this.still(); // what couldn't be sent is sent again
      this.batch ??= (await post(this.section.dataset.begin, new FormData(), this.token)).batch;
      const body = new FormData();
      body.append("photo", this.kept, `camera-${this.batch}-${this.count + 1}.jpg`);
      const outcome = await post(`/batches/${this.batch}/photos`, body, this.token);
      this.kept = undefined;
      if (outcome.state === "kept") this.count += 1;
      this.tell(outcome);
    } catch (wrong) {
      this.taken.textContent = `${wrong.message} ${gettext("The picture is kept here: press the button to send it again.")}`;
    }
    this.button.disabled = false;
    this.sending = false;
  }

  tell(outcome) {
    const link = document.createElement("a");
    link.href = `${this.section.dataset.batch}?batch=${this.batch}`;
    link.textContent = this.count === 1 ? gettext("See the photograph being read") : gettext("See the %(count)s photographs being read", { count: this.count });
    const words = outcome.state === "kept" ? gettext("Taken; aim at the next sheet. If this one shines or lies in shade, turn it a quarter and take it again: both are read together.") : outcome.words;
    this.taken.replaceChildren(`${words} `, ...(this.count ? [link] : []));
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const section = document.getElementById("camera");
  if (section) new Camera(section).start();
});
